import Papa from 'papaparse';

/**
 * A cell that a spreadsheet may take for a formula and run: it begins with = + - @, a tab or a line
 * break, or one of the wide forms (OWASP, CSV Injection, from memory). A plain number is none. Quotes
 * before it count along, so that reading takes off exactly the one that writing put there.
 */
const formula = /^'*[=+\-@\t\r\n＝＋－＠]/;
const plainNumber = /^[+-]?(\d+(\.\d*)?|\.\d+)(e[+-]?\d+)?$/i;

/** Rows as CSV (RFC 4180, comma, CRLF); what a spreadsheet would run has a quote before it. */
export function writeCsv(rows: readonly (readonly string[])[]): string {
  const harmless = rows.map((row) =>
    row.map((cell) => (formula.test(cell) && !plainNumber.test(cell) ? `'${cell}` : cell)),
  );
  return `${Papa.unparse(harmless, { newline: '\r\n' })}\r\n`;
}

/** A cell as it was before it was written: `'+5V` is +5V. */
export const readCell = (cell: string): string =>
  cell.startsWith("'") && formula.test(cell) ? cell.slice(1) : cell;

/** Reads CSV with comma, semicolon or tab, a byte order mark or none. */
export function readCsv(text: string, config: Papa.ParseConfig = {}): Papa.ParseResult<string[]> {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { ...config, worker: false });
  return { ...parsed, data: parsed.data.map((row) => row.map(readCell)) };
}

import { deflateSync } from 'node:zlib';

// Files written by hand, object by object, for what no library writes: broken, huge, nested or hostile.

/** A PDF of the given objects; object 1 is the catalogue. Table of places in order unless `broken`. */
export function rawPdf(objects: readonly (string | Buffer)[], broken = false): Buffer {
  const parts: Buffer[] = [Buffer.from('%PDF-1.7\n')];
  const places: number[] = [];
  let length = parts[0]!.length;
  objects.forEach((object, at) => {
    places.push(length);
    const body = Buffer.concat([
      Buffer.from(`${at + 1} 0 obj\n`),
      typeof object === 'string' ? Buffer.from(object) : object,
      Buffer.from('\nendobj\n'),
    ]);
    parts.push(body);
    length += body.length;
  });
  const table = places
    .map((place) => `${String(broken ? place + 7 : place).padStart(10, '0')} 00000 n \n`)
    .join('');
  parts.push(
    Buffer.from(
      `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${broken ? length - 40 : length}\n%%EOF\n`,
    ),
  );
  return Buffer.concat(parts);
}

export const streamOf = (content: Buffer, keys = ''): Buffer =>
  Buffer.concat([
    Buffer.from(`<< /Length ${content.length} ${keys} >>\nstream\n`),
    content,
    Buffer.from('\nendstream'),
  ]);

const font = '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>';
const pageWith = (contents: string, parent = '2 0 R'): string =>
  `<< /Type /Page /Parent ${parent} /MediaBox [0 0 600 400] /Resources << /Font << /F 3 0 R >> >> ${contents} >>`;

/** One page with a text on it, its table of places right or wrong. */
export const onePage = (text: string, broken = false): Buffer =>
  rawPdf(
    [
      '<< /Type /Catalog /Pages 2 0 R >>',
      '<< /Type /Pages /Kids [4 0 R] /Count 1 >>',
      font,
      pageWith('/Contents 5 0 R'),
      streamOf(Buffer.from(`BT /F 10 Tf 50 300 Td (${text}) Tj ET`)),
    ],
    broken,
  );

export function manyPages(count: number): Buffer {
  const kids = Array.from({ length: count }, (_, at) => `${at + 4} 0 R`).join(' ');
  return rawPdf([
    '<< /Type /Catalog /Pages 2 0 R >>',
    `<< /Type /Pages /Kids [${kids}] /Count ${count} >>`,
    font,
    ...Array.from({ length: count }, () => pageWith('')),
  ]);
}

/** Page trees within page trees, `deep` of them. */
export function nested(deep: number): Buffer {
  const trees = Array.from(
    { length: deep },
    (_, at) =>
      `<< /Type /Pages /Kids [${at + 5} 0 R] /Count 1 ${at === 0 ? '' : `/Parent ${at + 3} 0 R`} >>`,
  );
  return rawPdf([
    '<< /Type /Catalog /Pages 4 0 R >>',
    '<< >>',
    font,
    ...trees,
    pageWith('', `${deep + 3} 0 R`),
  ]);
}

/** A page whose drawing unpacks to `bytes` of blanks. */
export function bomb(bytes: number): Buffer {
  return rawPdf([
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [4 0 R] /Count 1 >>',
    font,
    pageWith('/Contents 5 0 R'),
    streamOf(deflateSync(Buffer.alloc(bytes, ' '), { level: 9 }), '/Filter /FlateDecode'),
  ]);
}

/** A page that runs a script when it is opened. */
export const scripted = (): Buffer =>
  rawPdf([
    '<< /Type /Catalog /Pages 2 0 R /OpenAction 6 0 R >>',
    '<< /Type /Pages /Kids [4 0 R] /Count 1 >>',
    font,
    pageWith('/Contents 5 0 R'),
    streamOf(Buffer.from('BT /F 10 Tf 50 300 Td (<b>3V3</b> & PWR) Tj ET')),
    '<< /S /JavaScript /JS (while \\(true\\) {}) >>',
  ]);

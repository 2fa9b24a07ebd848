import { valueUnit, type Board, findChip, findPart } from '../board/index.ts';
import { resistorMarking, threeDigits } from '../sums/index.ts';
import { formatQuantity, parseQuantity, type Unit } from '../units/index.ts';

/** Prints and values are compared without case, spaces and the signs around them. */
const plain = (text: string): string => text.toUpperCase().replace(/[^A-Z0-9]/g, '');

/** So far may what is printed stray from the sheet's value: resistors are exact, capacitors and coils are not. */
const strays: Partial<Record<Unit, number>> = {
  ohms: 0.02,
  farads: 0.25,
  henries: 0.25,
  volts: 0.1,
};

/**
 * What is wrong with the marking of a part that is to be fitted, held against the sheet; null where it
 * matches, or where the sheet or the print says nothing that could be compared. Codes by IEC 60062 and EIA-96.
 */
export function markingTrouble(board: Board, ref: string, marking: string): string | null {
  const text = marking.trim();
  const part = findPart(board, ref);
  const owner = part ?? findChip(board, ref);
  if (plain(text) === '' || !owner) return null;
  const [wanted, printed] = [plain(owner.marking), plain(text)];
  if (wanted !== '' && (printed.startsWith(wanted) || wanted.startsWith(printed))) return null;
  const unit = part && valueUnit[part.kind];
  if (unit !== undefined && part && part.value !== null) {
    const { value } = part;
    const readings = readAs(text, unit);
    const stray = strays[unit] ?? 0.1;
    if (readings.length === 0) return null;
    if (readings.some((one) => Math.abs(one - value) <= stray * value)) return null;
    return `${text} reads as ${readings.map((one) => formatQuantity(one, unit)).join(' or ')}: the sheet says ${formatQuantity(value, unit)} for ${ref}.`;
  }
  return wanted === ''
    ? null
    : `The sheet says ${owner.marking} for ${ref}: fit ${text} only if its data sheet calls it the same.`;
}

/** Every value a print or a written value could stand for. */
function readAs(text: string, unit: Unit): number[] {
  const codes =
    unit === 'ohms'
      ? resistorMarking(text).map((one) => one.ohms)
      : unit === 'farads' || unit === 'henries'
        ? [threeDigits(text)].flatMap((one) =>
            one === null ? [] : [one * (unit === 'farads' ? 1e-12 : 1e-6)],
          )
        : [];
  const written = parseQuantity(text, unit);
  // Bare digits are a code before they are a number.
  return codes.length > 0 ? codes : written.ok ? [written.value] : [];
}

import { netOf, type Board, type NetId, type Part } from '../board/index.ts';

/** What a sheet has to put into a sum: where it stands, and the inputs as one would type them. */
export interface SumFill {
  label: string;
  typed: Readonly<Record<string, string>>;
}

/** Largest resistor that is there to measure a current; common practice, no source. */
const largestSenseOhms = 0.05;

/**
 * Places on a board a sum applies to, by the sum's id: dividers, pull-ups, lines with a capacitor, sense
 * resistors, rails with their capacitors. Empty where the sheet draws none.
 */
export function sumFills(board: Board, sum: string): SumFill[] {
  const resistors = board.parts.filter(
    (one) => one.kind === 'resistor' && one.fitted && !one.isGuess && one.value !== null,
  );
  switch (sum) {
    case 'divider':
    case 'divider-fault':
      return dividers(board, resistors).map(({ net, upper, lower, volts }) => ({
        label: `${net}: ${upper.ref} over ${lower.ref}`,
        typed: { volts: text(volts), upper: text(upper.value), lower: text(lower.value) },
      }));
    case 'pull-up':
      return pullUps(board, resistors).map(({ net, part, volts }) => ({
        label: `${net}: ${part.ref}`,
        typed: { supply: text(volts), up: text(part.value) },
      }));
    case 'rc':
      return pullUps(board, resistors).flatMap(({ net, part, volts }) =>
        toGround(board, net, 'capacitor').map((capacitor) => ({
          label: `${net}: ${part.ref} and ${capacitor.ref}`,
          typed: { ohms: text(part.value), farads: text(capacitor.value), supply: text(volts) },
        })),
      );
    case 'sense':
      return resistors
        .filter((one) => (one.value as number) > 0 && (one.value as number) <= largestSenseOhms)
        .map((one) => ({
          label: `${one.ref}${one.title ? ` ${one.title}` : ''}`,
          typed: { ohms: text(one.value) },
        }));
    case 'injection':
      return rails(board).map(({ id, volts }) => ({ label: id, typed: { rail: text(volts) } }));
    case 'energy':
      return rails(board).flatMap(({ id, volts }) => {
        const farads = toGround(board, id, 'capacitor').reduce(
          (sum, one) => sum + (one.value ?? 0),
          0,
        );
        return farads > 0
          ? [
              {
                label: `${id}, all its capacitors`,
                typed: { farads: text(farads), volts: text(volts) },
              },
            ]
          : [];
      });
    case 'in-circuit':
      return resistors
        .filter((one) => (one.value as number) >= 1)
        .map((one) => ({ label: one.ref, typed: { marked: text(one.value) } }));
    default:
      return [];
  }
}

/** To six digits, in the core's units: what is typed is read again. */
const text = (value: number | null): string => String(Number((value ?? 0).toPrecision(6)));

const rails = (board: Board): { id: NetId; volts: number }[] =>
  board.nets.flatMap(({ id, kind, volts }) =>
    kind === 'rail' && volts !== null ? [{ id, volts }] : [],
  );

const endsOf = (part: Part): [NetId, NetId] | null =>
  part.pins.length === 2 ? [part.pins[0]!.net, part.pins[1]!.net] : null;

function toGround(board: Board, net: NetId, kind: Part['kind']): Part[] {
  return board.parts.filter((one) => {
    const ends = endsOf(one);
    return one.kind === kind && one.fitted && ends?.includes(net) && ends.includes(board.ground);
  });
}

/** Resistors from a rail with known volts to a net that is none. */
function pullUps(
  board: Board,
  resistors: readonly Part[],
): { net: NetId; part: Part; volts: number }[] {
  return resistors.flatMap((part) => {
    const ends = endsOf(part);
    if (!ends || ends.includes(board.ground)) return [];
    return [ends, [ends[1], ends[0]] as [NetId, NetId]].flatMap(([from, to]) => {
      const { kind, volts } = netOf(board, from);
      const other = netOf(board, to).kind;
      return kind === 'rail' && volts !== null && (other === 'signal' || other === 'analog')
        ? [{ net: to, part, volts }]
        : [];
    });
  });
}

function dividers(
  board: Board,
  resistors: readonly Part[],
): { net: NetId; upper: Part; lower: Part; volts: number }[] {
  return pullUps(board, resistors).flatMap(({ net, part: upper, volts }) =>
    resistors
      .filter((one) => {
        const ends = endsOf(one);
        return one !== upper && ends?.includes(net) && ends.includes(board.ground);
      })
      .map((lower) => ({ net, upper, lower, volts })),
  );
}

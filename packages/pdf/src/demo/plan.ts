import { outputPins, pinsOnNet, type Board, type Chip, type Part } from '@jiko/core/board';
import { studyHealthyBoard } from '@jiko/core/expectations';

/** A part as it is drawn: its pins with numbers, and the nets they are on. */
export interface DrawnPart {
  ref: string;
  kind: string;
  title: string;
  value: string;
  isFitted: boolean;
  pins: { name: string; number: string; net: string; side: 'left' | 'right' }[];
}

/** A page of a schematic: what stands on it. */
export interface PlannedPage {
  title: string;
  parts: DrawnPart[];
}

/** Where everything of a board is drawn: what a reader of the document should find. */
export interface DrawnTruth {
  /** Pages by net, and by reference designator. */
  nets: Map<string, Set<number>>;
  parts: Map<string, Set<number>>;
  pins: { ref: string; pin: string; net: string; page: number }[];
}

/** One page for each stage in the order of waking, each with the parts that serve it; the rest behind. */
export function planPages(board: Board, perPage: number): PlannedPage[] {
  const order = studyHealthyBoard(board).stages.map((one) => one.stage);
  const left = new Map<string, DrawnPart>();
  for (const part of board.parts) left.set(part.ref, drawnPart(part));
  for (const chip of board.chips) if (!chip.virtual) left.set(chip.ref, drawnChip(chip));
  const pages: PlannedPage[] = [];
  const take = (title: string, refs: readonly string[]): void => {
    const parts = refs.flatMap((ref) => {
      const part = left.get(ref);
      left.delete(ref);
      return part ? [part] : [];
    });
    for (let from = 0; from < parts.length; from += perPage)
      pages.push({ title, parts: parts.slice(from, from + perPage) });
  };
  for (const stage of order) {
    const makers = stage.by.filter((ref) => left.has(ref));
    const nets = new Set<string>(stage.gives);
    for (const ref of makers)
      for (const { net } of left.get(ref)?.pins ?? []) if (net !== board.ground) nets.add(net);
    const around = [...nets]
      .flatMap((net) => pinsOnNet(board, net as never).map((one) => one.ref as string))
      .filter((ref) => left.has(ref) && (left.get(ref)?.pins.length ?? 9) <= 4);
    const wanted = new Set([...makers, ...around.filter((ref) => servesOnly(left.get(ref), nets))]);
    if (wanted.size > 0) take(stage.title, [...wanted]);
  }
  take('Connectors and the rest', [...left.keys()]);
  return pages;

  function servesOnly(part: DrawnPart | undefined, nets: Set<string>): boolean {
    return (part?.pins ?? []).every(({ net }) => net === board.ground || nets.has(net));
  }
}

const drawnPart = (part: Part): DrawnPart => ({
  ref: part.ref,
  kind: part.kind,
  title: part.title,
  value: part.valueText,
  isFitted: part.fitted,
  pins: part.pins.map(({ name, net }, at) => ({
    name,
    number: String(at + 1),
    net,
    side: at * 2 < part.pins.length ? 'left' : 'right',
  })),
});

function drawnChip(chip: Chip): DrawnPart {
  const outs = new Set(chip.behaviours.flatMap(outputPins));
  const pins = [...chip.pins].filter(([pin]) => !pin.startsWith('_'));
  const left = pins.filter(([pin]) => !outs.has(pin));
  const right = pins.filter(([pin]) => outs.has(pin));
  // Neither side may grow much taller than the other.
  while (left.length > right.length + 3) right.push(left.pop()!);
  while (right.length > left.length + 3) left.push(right.pop()!);
  const sided = [
    ...left.map((pin) => ({ pin, side: 'left' as const })),
    ...right.toReversed().map((pin) => ({ pin, side: 'right' as const })),
  ];
  return {
    ref: chip.ref,
    kind: chip.kind,
    title: chip.title,
    value: chip.marking,
    isFitted: chip.fitted,
    // Counted down the left side and up the right one, as packages are.
    pins: sided.map(({ pin: [name, net], side }, at) => ({
      name,
      number: String(at + 1),
      net,
      side,
    })),
  };
}

export function emptyTruth(): DrawnTruth {
  return { nets: new Map(), parts: new Map(), pins: [] };
}

export function note(map: Map<string, Set<number>>, name: string, page: number): void {
  map.set(name, (map.get(name) ?? new Set()).add(page));
}

import type { Board, Chip, NetId, Part, PartRef } from '../board/index.ts';

/**
 * What can go wrong, each as a change to the board: never to a reading. This first list holds what
 * takes a stage away; severities, drifts and pins come with the fault dictionary.
 */
export type Fault =
  /** A part that no longer conducts, a chip that does nothing. */
  | { kind: 'open'; part: PartRef }
  | { kind: 'dead'; part: PartRef }
  /** A net pulled to ground through `ohms`. */
  | { kind: 'short'; net: NetId; ohms: number };

export function faultName(fault: Fault): string {
  switch (fault.kind) {
    case 'open':
      return `${fault.part} open`;
    case 'dead':
      return `${fault.part} dead`;
    case 'short':
      return `${fault.net} shorted to ground`;
  }
}

/** The board with the fault in it. Naming a part or net that is not there is a bug of the caller. */
export function withFault(board: Board, fault: Fault): Board {
  switch (fault.kind) {
    case 'open': {
      if (!board.parts.some((part) => part.ref === fault.part))
        throw new Error(`no part ${fault.part}`);
      return {
        ...board,
        parts: board.parts.map((part): Part =>
          part.ref === fault.part ? { ...part, fitted: false } : part,
        ),
      };
    }
    case 'dead': {
      if (!board.chips.some((chip) => chip.ref === fault.part))
        throw new Error(`no chip ${fault.part}`);
      return {
        ...board,
        chips: board.chips.map((chip): Chip =>
          chip.ref === fault.part ? { ...chip, behaviours: [] } : chip,
        ),
      };
    }
    case 'short': {
      if (!board.nets.some((net) => net.id === fault.net)) throw new Error(`no net ${fault.net}`);
      const short: Part = {
        ref: `short on ${fault.net}` as PartRef,
        kind: 'resistor',
        title: '',
        pins: [
          { name: '1', net: fault.net },
          { name: '2', net: board.ground },
        ],
        value: fault.ohms,
        valueText: String(fault.ohms),
        fitted: true,
        marking: '',
        package: '',
        side: null,
        x: null,
        y: null,
      };
      return { ...board, parts: [...board.parts, short] };
    }
  }
}

/** One change to a sheet, as it is made from Trace, the drawing or the tables. Names are those of the sheet. */
export type SheetEdit =
  /** A point of one's own: on a net that is known, or on one nobody has named yet. */
  | { do: 'add-point'; title: string; net: string | null; side?: 'top' | 'bottom' | undefined }
  /** "It is that net": every reading of the point belongs to it from then on. */
  | { do: 'join'; point: string; net: string }
  /** "It is not that net": the point has a net of its own again. */
  | { do: 'split'; point: string }
  | { do: 'rename-net'; net: string; to: string }
  | { do: 'alias'; net: string; alias: string }
  | {
      do: 'set-net';
      net: string;
      kind?: string;
      title?: string;
      volts?: string | null;
      range?: [string, string] | null;
      load?: string | null;
      origin?: string;
    }
  /** What feeds a net and lets it on, at rails depth. */
  | {
      do: 'feed';
      net: string;
      feed: string;
      enable: string | null;
      powerGood: string | null;
      /** What it waits for besides; missing: as it is. */
      after?: string[];
    }
  | { do: 'add-part'; ref: string; kind: string; pins: string[]; value: string }
  | {
      do: 'add-chip';
      ref: string;
      kind: string;
      title: string;
      volts: string | null;
      /** `number` as the data sheet counts the pins of the package. */
      pins: { pin: string; net: string; number?: string }[];
    }
  | { do: 'fitted'; ref: string; fitted: boolean }
  | { do: 'add-net'; net: string; kind: string; volts: string | null; title: string };

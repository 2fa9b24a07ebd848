/** Parts and nets as other programs exchange them, whatever the format. */
export interface Netlist {
  /** What the file says it is of; empty where it says nothing. */
  title: string;
  parts: NetlistPart[];
  nets: NetlistNet[];
  /** Where pins are on the board, in millimetres; none where the format has no places. */
  places: NetlistPlace[];
}

export interface NetlistPart {
  ref: string;
  value: string;
  package: string;
  /** The kind of part, in the words of the file's library; empty where it says nothing. */
  sort: string;
  isFitted: boolean;
}

export interface NetlistNet {
  name: string;
  /** `name`: what the pin does, where the format says so. */
  pins: { ref: string; pin: string; name: string }[];
}

export interface NetlistPlace {
  net: string;
  ref: string;
  pin: string;
  /** Null where it goes through the board. */
  side: 'top' | 'bottom' | null;
  x: number;
  y: number;
}

/** What could not be read of a file, and where. Lines count from 1; 0: the file as a whole. */
export interface NetlistTrouble {
  line: number;
  why: string;
}

/** A file that was read, with what was left out. Null: nothing of it can be used. */
export interface ReadNetlist {
  netlist: Netlist | null;
  troubles: NetlistTrouble[];
}

export const emptyNetlist = (): Netlist => ({ title: '', parts: [], nets: [], places: [] });

/** So many troubles are told; a file with more is no such file. */
export const mostTroubles = 200;

/** A resistor on its board, unpowered: itself beside all other ways from end to end. */
export interface InCircuit {
  part: string;
  /** By the sheet. */
  ohms: number;
  /** The other ways alone; Infinity where there are none. `Low` and `High` bound what nobody knows. */
  beside: number;
  besideLow: number;
  besideHigh: number;
  /** What a good one reads there. */
  expected: number;
  /** The end that is easier to lift. */
  lift: { pin: string; net: string };
}

/**
 * How often a reading is not what stands at the point, and what it shows then: guesses of the bench, no
 * source. Every weighing of readings uses these (faults, names of points, the place of a short).
 */
export const readingErrors = {
  /** Simply wrong: a slipped tip, another pad, a typing error. */
  wrong: 0.02,
  /** Read more often than this tells no more: a slip does not repeat itself. */
  mostTimes: 2,
  /**
   * The tip does not touch through coating, flux or oxide, unpowered. A line is touched at a via or a fine
   * pin, a rail and a part at solder.
   */
  missedTip: { atLine: 0.1, else: 0.02 },
  /** Cold values a board does not share with its sheet: another die, something beside it, charge left. */
  oddCold: 0.05,
  /** No die and nothing beside explains a thirtieth of what is to be read, or more than a part has: a wrong pad. */
  wrongPad: 0.02,
  farBelow: 30,
  farOhms: 10_000,
  farAbove: 1.5,
  /** Next to no ohms do not come from a slip or another die: both tips must find each other. */
  wrongShort: 0.0004,
  nearNothingOhms: 5,
  /** Volts read at a point of which nobody knows yet what it is. */
  atUnnamed: 0.06,
  /** Any single step of a hunt: what was felt warm, a drop, ohms after a cut. */
  inHunt: 0.03,
} as const;

/**
 * Every caution of Jiko: when it shows, and its words. All of it is common practice, no source, unless it
 * says otherwise. Local rules and licensed practice stand above it; no caution ever says that a board is
 * safe.
 */

/** What is done, or about to be done. */
export const deeds = [
  // The bench as it stands while readings are taken.
  'cold',
  'standby',
  'pressed',
  'trying',
  'run',
  // Work on the board.
  'replaced',
  'reflowed',
  'cleaned',
  'jumper',
  'removed',
  'refitted',
  'reprogrammed',
  'other',
  'beside',
  'lift',
  'inject',
  'feed-rail',
  'feed-live',
  'look-for-heat',
  'measure-part',
  'plug',
  'put-back',
  'change-with-attachment',
  // Tests of a suspect, and checks before the board goes back.
  'measure-switch',
  'test-heat',
  'test-firmware',
  'charge',
  'test-rails',
  'test-fan',
  'test-source',
] as const;
export type Deed = (typeof deeds)[number];

/** What is known of the bench at that moment; what is left away is not known. */
export interface BenchFacts {
  isBatteryIn?: boolean;
  isSourceOn?: boolean;
  /** The cooler sits on the processor; false: it is off. */
  isCoolerOn?: boolean;
  /** What is plugged in or taken off: its title, in small letters. */
  attachment?: string;
  /** What the charger is set to, in words. */
  chargeLimit?: string;
}

export interface Caution {
  id: string;
  shows: (deed: Deed, facts: BenchFacts) => boolean;
  words: (facts: BenchFacts) => string;
}

const at =
  (...all: Deed[]) =>
  (deed: Deed): boolean =>
    all.includes(deed);
const isPowered = (deed: Deed): boolean =>
  deed === 'standby' || deed === 'pressed' || deed === 'trying' || deed === 'run';

/** In the order in which they are read where several show. */
export const cautions: readonly Caution[] = [
  {
    id: 'cooler-off',
    shows: (deed, { isCoolerOn }) => isPowered(deed) && isCoolerOn === false,
    words: () =>
      'The cooler is off: a processor without it overheats within seconds. Set the strip to Run as you press: a count begins, and the source goes off when it ends.',
  },
  {
    id: 'battery-in-cold',
    shows: (deed, { isBatteryIn }) => deed === 'cold' && isBatteryIn === true,
    words: () =>
      'The battery is still on the board: unplug it before taking ohms or diode-mode, and look at it first. Leave a swollen cell alone and follow your local rules.',
  },
  {
    id: 'cold',
    shows: (deed, { isBatteryIn }) => deed === 'cold' && isBatteryIn !== true,
    words: () =>
      'Source off, battery unplugged, large capacitors discharged before ohms or diode-mode. Nothing here is mains-side: that is for licensed practice.',
  },
  {
    id: 'live',
    shows: at('standby'),
    words: () =>
      'The board is live. One probe at a time, insulated tip, nothing loose on the bench; the input rail carries enough current to burn.',
  },
  {
    id: 'pressed',
    shows: at('pressed'),
    words: () =>
      'Hold the button, not the board. A probe that slips between two pads now takes a chip with it.',
  },
  {
    id: 'trying',
    shows: at('trying'),
    words: () =>
      'The board goes off by itself within seconds: read one point per try, let it cool between tries, and stop when something smells or gets hot.',
  },
  {
    id: 'run',
    shows: at('run'),
    words: () =>
      'All rails are up: coils and FETs may burn skin. Fan and heatsink on before it runs for more than seconds.',
  },
  {
    id: 'plugged-live',
    shows: (deed, { isSourceOn, isBatteryIn }) =>
      deed === 'plug' && (isSourceOn === true || isBatteryIn === true),
    words: ({ attachment = 'it', isSourceOn }) =>
      `Is ${isSourceOn ? 'a source' : 'the battery'} still on? Take it off before the ${attachment} is plugged or unplugged: a plug under power bridges its pins and ends the board, the panel or the drive. If it was done under power, say so: it is written down.`,
  },
  {
    id: 'plug',
    shows: (deed, { isSourceOn, isBatteryIn }) =>
      deed === 'plug' && isSourceOn !== true && isBatteryIn !== true,
    words: () => 'Source off and battery unplugged before anything is plugged or unplugged.',
  },
  {
    id: 'put-back',
    shows: at('put-back'),
    words: () => 'Source off and battery unplugged before anything is plugged, lifted or put back.',
  },
  {
    id: 'pack',
    shows: at('change-with-attachment'),
    words: ({ attachment = 'part' }) =>
      `Source off and battery unplugged first. The ${attachment} is changed as a whole: a battery pack is never opened, heated or soldered.`,
  },
  {
    id: 'inject',
    shows: at('inject'),
    words: () =>
      'Battery and source off. Stay below the rail’s own volts, and start with the current limit low. A shorted part gets hot enough to burn: look for it with a camera, not with a finger, and with nothing that burns.',
  },
  {
    id: 'feed-rail',
    shows: at('feed-rail'),
    words: () =>
      'Battery and source off: this rail alone is fed, and nothing else of the board is to wake. Never above the rail’s own volts; start with the current limit low. A shorted part gets hot enough to burn: a camera, not a finger, and nothing that burns.',
  },
  {
    id: 'feed-live',
    shows: at('feed-live'),
    words: () =>
      'The board is live: connect and disconnect the supply with everything off, its ground first. Off at once if it goes to its limit, or anything smells or gets hot.',
  },
  {
    id: 'vapour',
    shows: at('look-for-heat'),
    words: () => 'No freezing spray that burns, and no source or injection until vapour is gone.',
  },
  {
    id: 'lift',
    shows: at('lift'),
    words: () =>
      'Lifting heats the board: discharge it first, shield what is near, follow your shop’s rules.',
  },
  {
    id: 'measure-part',
    shows: at('measure-part'),
    words: () => 'Source off, battery unplugged, capacitors discharged.',
  },
  {
    id: 'replaced',
    shows: at('replaced'),
    words: () =>
      'Board out of its plastics, every battery and cell off, storage out. Hot air: shield neighbours, coils and connectors melt and shift; know whether the solder is leaded or lead-free. Extraction on. Never heat on or beside a cell.',
  },
  {
    id: 'reflowed',
    shows: at('reflowed'),
    words: () =>
      'Board out of its plastics, every battery and cell off. A reflow that helps for a day proves a joint, and mends none for good. Shield neighbours; extraction on.',
  },
  {
    id: 'cleaned',
    shows: at('cleaned'),
    words: () =>
      'Source and battery off. Solvents burn: no flame, no spark, no power until it is dry and the vapour gone. Gloves; follow the label.',
  },
  {
    id: 'jumper',
    shows: at('jumper'),
    words: () =>
      'Source and battery off. Fix the wire; keep it away from heat, screws and sharp edges.',
  },
  {
    id: 'removed',
    shows: at('removed'),
    words: () =>
      'Source and battery off. Write the part down before it is off; keep it on a labelled strip.',
  },
  {
    id: 'refitted',
    shows: at('refitted'),
    words: () =>
      'Pin 1 and polarity before heat. Look under the microscope for bridges before power.',
  },
  {
    id: 'reprogrammed',
    shows: at('reprogrammed'),
    words: () =>
      'Source off, battery out. The programmer gives the volts of the flash, never more; a clip feeds the whole rail backwards. The old contents are saved first: identity and settings of the board live in them.',
  },
  {
    id: 'other-work',
    shows: at('other'),
    words: () => 'Source and battery off before anything is touched.',
  },
  {
    id: 'beside-work',
    shows: at('beside'),
    words: () =>
      'Source off, battery unplugged first. A swollen, dented or warm cell does not go back. A coin cell is changed for one of its own kind, the right way round; nothing is ever soldered or heated on the body of a cell.',
  },
  {
    id: 'switch-short',
    shows: at('measure-switch'),
    words: () =>
      'Do not power the board before this is measured: the volts of the feed stand on the output and destroy what hangs there.',
  },
  {
    id: 'hot-test',
    shows: at('test-heat'),
    words: () =>
      'Never let a processor run without its cooler. Parts get hot enough to burn: a thermometer or a camera, not a finger.',
  },
  {
    id: 'firmware-test',
    shows: at('test-firmware'),
    words: () =>
      'The programmer gives the volts of the flash, with the source off and the battery unplugged. A wire to a reset is put on with everything off.',
  },
  {
    id: 'charge',
    shows: at('charge'),
    words: ({ chargeLimit = 'the charger is set to' }) =>
      `More than ${chargeLimit} or a swelling or warm cell: unplug the battery, keep away, follow your local rules. Never heat or solder on or beside a cell.`,
  },
  {
    id: 'rails-live',
    shows: at('test-rails'),
    words: () => 'The board is live: one probe at a time.',
  },
  {
    id: 'cooler-needed',
    shows: at('test-fan'),
    words: () => 'Never let a processor run without its cooler.',
  },
  {
    id: 'source-suspect',
    shows: at('test-source'),
    words: () =>
      'What killed this part may kill the next: do not connect its own source before it was tested.',
  },
];

/** What shows at this deed. */
export const cautionsAt = (deed: Deed, facts: BenchFacts = {}): Caution[] =>
  cautions.filter(({ shows }) => shows(deed, facts));

/** The same as one text; empty where nothing shows. */
export const cautionText = (deed: Deed, facts: BenchFacts = {}): string =>
  cautionsAt(deed, facts)
    .map(({ words }) => words(facts))
    .join(' ');

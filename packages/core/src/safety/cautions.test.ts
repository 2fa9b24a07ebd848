import { describe, expect, it } from 'vitest';
import { cautions, cautionsAt, cautionText, deeds, type BenchFacts, type Deed } from './index.ts';

const shown = (deed: Deed, facts?: BenchFacts): string =>
  cautionsAt(deed, facts)
    .map(({ id }) => id)
    .join(' ');

describe('what shows where', () => {
  it.each<[Deed, BenchFacts, string]>([
    ['cold', {}, 'cold'],
    ['cold', { isBatteryIn: false }, 'cold'],
    ['cold', { isBatteryIn: true }, 'battery-in-cold'],
    // Nothing runs cold: the cooler may be off.
    ['cold', { isCoolerOn: false }, 'cold'],
    ['standby', {}, 'live'],
    ['standby', { isCoolerOn: true }, 'live'],
    ['standby', { isCoolerOn: false }, 'cooler-off live'],
    ['pressed', { isCoolerOn: false }, 'cooler-off pressed'],
    ['trying', { isCoolerOn: false }, 'cooler-off trying'],
    ['run', { isCoolerOn: false }, 'cooler-off run'],
    ['pressed', {}, 'pressed'],
    ['trying', {}, 'trying'],
    ['run', {}, 'run'],
    ['plug', {}, 'plug'],
    ['plug', { isSourceOn: false, isBatteryIn: false }, 'plug'],
    ['plug', { isSourceOn: true }, 'plugged-live'],
    ['plug', { isBatteryIn: true }, 'plugged-live'],
    ['put-back', {}, 'put-back'],
    ['change-with-attachment', {}, 'pack'],
    ['inject', {}, 'inject'],
    ['feed-rail', {}, 'feed-rail'],
    ['feed-live', {}, 'feed-live'],
    ['look-for-heat', {}, 'vapour'],
    ['lift', {}, 'lift'],
    ['measure-part', {}, 'measure-part'],
    ['replaced', {}, 'replaced'],
    ['reflowed', {}, 'reflowed'],
    ['cleaned', {}, 'cleaned'],
    ['jumper', {}, 'jumper'],
    ['removed', {}, 'removed'],
    ['refitted', {}, 'refitted'],
    ['reprogrammed', {}, 'reprogrammed'],
    ['other', {}, 'other-work'],
    ['beside', {}, 'beside-work'],
    ['measure-switch', {}, 'switch-short'],
    ['test-heat', {}, 'hot-test'],
    ['test-firmware', {}, 'firmware-test'],
    ['charge', {}, 'charge'],
    ['test-rails', {}, 'rails-live'],
    ['test-fan', {}, 'cooler-needed'],
    ['test-source', {}, 'source-suspect'],
  ])('%s with %j: %s', (deed, facts, ids) => {
    expect(shown(deed, facts)).toBe(ids);
  });

  it('every deed says something, and every caution has its deed', () => {
    expect(deeds.filter((deed) => shown(deed) === '')).toEqual([]);
    const facts: BenchFacts[] = [{}, { isCoolerOn: false }, { isBatteryIn: true }];
    const all = new Set(
      deeds.flatMap((deed) => facts.flatMap((one) => cautionsAt(deed, one).map(({ id }) => id))),
    );
    expect(cautions.map(({ id }) => id).filter((id) => !all.has(id))).toEqual([]);
  });
});

describe('the words', () => {
  it('stand word for word', () => {
    expect(cautions.map(({ id, words }) => `${id}: ${words({ attachment: 'panel' })}`))
      .toMatchInlineSnapshot(`
        [
          "cooler-off: The cooler is off: a processor without it overheats within seconds. Set the strip to Run as you press: a count begins, and the source goes off when it ends.",
          "battery-in-cold: The battery is still on the board: unplug it before taking ohms or diode-mode, and look at it first. Leave a swollen cell alone and follow your local rules.",
          "cold: Source off, battery unplugged, large capacitors discharged before ohms or diode-mode. Nothing here is mains-side: that is for licensed practice.",
          "live: The board is live. One probe at a time, insulated tip, nothing loose on the bench; the input rail carries enough current to burn.",
          "pressed: Hold the button, not the board. A probe that slips between two pads now takes a chip with it.",
          "trying: The board goes off by itself within seconds: read one point per try, let it cool between tries, and stop when something smells or gets hot.",
          "run: All rails are up: coils and FETs may burn skin. Fan and heatsink on before it runs for more than seconds.",
          "plugged-live: Is the battery still on? Take it off before the panel is plugged or unplugged: a plug under power bridges its pins and ends the board, the panel or the drive. If it was done under power, say so: it is written down.",
          "plug: Source off and battery unplugged before anything is plugged or unplugged.",
          "put-back: Source off and battery unplugged before anything is plugged, lifted or put back.",
          "pack: Source off and battery unplugged first. The panel is changed as a whole: a battery pack is never opened, heated or soldered.",
          "inject: Battery and source off. Stay below the rail’s own volts, and start with the current limit low. A shorted part gets hot enough to burn: look for it with a camera, not with a finger, and with nothing that burns.",
          "feed-rail: Battery and source off: this rail alone is fed, and nothing else of the board is to wake. Never above the rail’s own volts; start with the current limit low. A shorted part gets hot enough to burn: a camera, not a finger, and nothing that burns.",
          "feed-live: The board is live: connect and disconnect the supply with everything off, its ground first. Off at once if it goes to its limit, or anything smells or gets hot.",
          "vapour: No freezing spray that burns, and no source or injection until vapour is gone.",
          "lift: Lifting heats the board: discharge it first, shield what is near, follow your shop’s rules.",
          "measure-part: Source off, battery unplugged, capacitors discharged.",
          "replaced: Board out of its plastics, every battery and cell off, storage out. Hot air: shield neighbours, coils and connectors melt and shift; know whether the solder is leaded or lead-free. Extraction on. Never heat on or beside a cell.",
          "reflowed: Board out of its plastics, every battery and cell off. A reflow that helps for a day proves a joint, and mends none for good. Shield neighbours; extraction on.",
          "cleaned: Source and battery off. Solvents burn: no flame, no spark, no power until it is dry and the vapour gone. Gloves; follow the label.",
          "jumper: Source and battery off. Fix the wire; keep it away from heat, screws and sharp edges.",
          "removed: Source and battery off. Write the part down before it is off; keep it on a labelled strip.",
          "refitted: Pin 1 and polarity before heat. Look under the microscope for bridges before power.",
          "reprogrammed: Source off, battery out. The programmer gives the volts of the flash, never more; a clip feeds the whole rail backwards. The old contents are saved first: identity and settings of the board live in them.",
          "other-work: Source and battery off before anything is touched.",
          "beside-work: Source off, battery unplugged first. A swollen, dented or warm cell does not go back. A coin cell is changed for one of its own kind, the right way round; nothing is ever soldered or heated on the body of a cell.",
          "switch-short: Do not power the board before this is measured: the volts of the feed stand on the output and destroy what hangs there.",
          "hot-test: Never let a processor run without its cooler. Parts get hot enough to burn: a thermometer or a camera, not a finger.",
          "firmware-test: The programmer gives the volts of the flash, with the source off and the battery unplugged. A wire to a reset is put on with everything off.",
          "charge: More than the charger is set to or a swelling or warm cell: unplug the battery, keep away, follow your local rules. Never heat or solder on or beside a cell.",
          "rails-live: The board is live: one probe at a time.",
          "cooler-needed: Never let a processor run without its cooler.",
          "source-suspect: What killed this part may kill the next: do not connect its own source before it was tested.",
        ]
      `);
  });

  it('what is plugged under power names what is on', () => {
    expect(cautionText('plug', { isSourceOn: true, attachment: 'panel' })).toMatch(
      /^Is a source still on\? Take it off before the panel/,
    );
    expect(cautionText('plug', { isBatteryIn: true, attachment: 'panel' })).toMatch(
      /^Is the battery still on\?/,
    );
  });

  it('charging says its limit', () => {
    expect(cautionText('charge', { chargeLimit: '2 A' })).toMatch(/^More than 2 A or a swelling/);
    expect(cautionText('change-with-attachment', { attachment: 'battery' })).toMatch(
      /The battery is changed as a whole: a battery pack is never opened, heated or soldered/,
    );
  });
});

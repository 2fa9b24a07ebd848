import { placeInScheme, type Board, type PartRef } from '@jiko/core/board';
import { job, placeOn, type DemoJob } from './demo-log.ts';
import { endedJobs } from './ended-jobs.ts';

/**
 * The demo bench: the repair bench of the Tarn Valley weather network, all invented. Readings are
 * taken through the core, from a play with the fault in it, as a technician following the trace
 * would take them.
 */
export function demoJobs(boards: readonly Board[], now: Date): DemoJob[] {
  const board = (id: string): Board => {
    const found = boards.find((one) => one.id === id);
    if (!found) throw new Error(`no demo board ${id}`);
    return found;
  };
  const cairn = board('cairn-14');
  const fell = board('fell-13');
  const beck = board('beck-mini');
  const part = (ref: string): PartRef => ref as PartRef;

  return [
    job(1, now, 30, (log) => {
      log.intake(cairn, {
        device: 'Cairn 14 from Skell Hut',
        complaint: 'Was left under the window. In the morning it did nothing, no light.',
        happened: ['frost'],
        history: 'Condensation after a cold night; wiped dry by the keeper.',
        cameWith: 'adapter, no bag',
        limitMinutes: 180,
        keep: "the season's snow readings",
        promised: day(now, 2),
      });
      log.add('Bench 1', {
        type: 'sign',
        phase: 'standby',
        drawAmps: 0.027,
        drawShape: 'steady',
        seen: { lights: [], startsOnConnect: false },
        source: { id: 'bench', volts: 19.5, limitAmps: 0.5 },
        lastedSeconds: 60,
        text: '',
      });
      log.add('Bench 1', { type: 'tried', thing: 'other-source', result: 'no-change' });
      log.add('Bench 1', { type: 'tried', thing: 'meter-zero', result: 'no-change', ohms: 0.2 });
      for (const item of ['source-off', 'battery-out', 'storage-out', 'discharged', 'esd'] as const)
        log.add('Bench 1', { type: 'safety', item, state: 'done' });
      log.add('Bench 1', { type: 'time', minutes: 40 });
      log.add('Bench 1', {
        type: 'finding',
        kind: 'corrosion',
        part: 'R2',
        text: 'white bloom beside PQ1',
      });
      log.trace('Bench 1', cairn, { kind: 'open', part: part('R2') }, 9);
    }),
    job(2, now, 50, (log) => {
      log.intake(cairn, {
        device: 'Cairn 14 from Raven Pass',
        complaint: 'Dead since the thunderstorm on Sunday.',
        happened: ['lightning'],
        history: 'Lightning nearby; the adapter died as well.',
        promised: day(now, 0),
      });
      log.add('Bench 2', { type: 'note', text: 'Another adapter tried first: same.' });
      log.trace('Bench 2', cairn, { kind: 'open', part: part('F1') }, 12);
      log.add('Bench 2', {
        type: 'repair',
        action: 'replaced',
        parts: ['F1'],
        text: 'fuse open; 0.4 MΩ to ground behind it, no short found',
      });
      log.trace('Bench 2', cairn, null, 14);
    }),
    job(3, now, 6, (log) => {
      log.intake(fell, {
        device: 'Fell 13 from Larch Hut',
        complaint: 'Does not charge and does not start. The cable has been chewed.',
        happened: ['bite'],
        history: "A marten's bite through the USB-C cable while plugged in.",
        lacking: 'its cable',
        promised: day(now, 5),
      });
    }),
    job(4, now, 26, (log) => {
      log.intake(beck, {
        device: 'Beck mini, station 7',
        complaint: 'Fan turns for a second, then nothing.',
        happened: ['frost'],
        history: 'Frost in the cabinet.',
        promised: null,
      });
      log.trace('Bench 1', beck, { kind: 'dead', part: part('memory-regulator') }, 20);
    }),
    job(5, now, 120, (log) => {
      log.intake(cairn, {
        device: 'Cairn 14, spare of the valley office',
        complaint: 'Lights up, but stays dark and goes off after a few seconds.',
        happened: ['drop'],
        history: 'Fell from a table.',
        promised: null,
      });
      log.trace('Bench 2', cairn, { kind: 'open', part: part('PL7') }, 60);
      log.add('Bench 2', {
        type: 'repair',
        action: 'reflowed',
        parts: ['PL7'],
        text: 'cracked joint under the coil',
      });
      log.trace('Bench 2', cairn, null, 60);
      log.add('Bench 2', {
        type: 'close',
        outcome: 'fixed',
        cause: 'A solder joint had cracked in the fall.',
        proof: 'proven',
        parts: ['PL7'],
        how: 'joint',
        ...placeInScheme(cairn, ['PL7']),
      });
    }),
    job(6, now, 3, (log) => {
      log.intake(cairn, {
        device: 'Cairn 14 of the ridge station',
        complaint: 'Tea went over the keyboard. It was running and went dark.',
        happened: ['liquid'],
        history: 'Sweet tea, an hour ago; the battery was taken out at once.',
        keep: "this week's readings",
        promised: day(now, 3),
        limitMinutes: 240,
      });
      log.add('Bench 2', { type: 'safety', item: 'battery-out', state: 'done' });
      log.add('Bench 2', { type: 'safety', item: 'liquids', state: 'done' });
      log.add('Bench 2', {
        type: 'wait',
        reason: 'drying',
        until: new Date(now.getTime() + 20 * 3600_000).toISOString(),
        text: 'washed, in the drying box',
      });
    }),
    job(7, now, 8, (log) => {
      log.intake(cairn, {
        device: 'Cairn 14 from Hollow Hut',
        complaint: 'The light comes on for a moment and goes out again.',
        happened: ['frost', 'earlier-repair'],
        history: 'Hung in the porch all winter.',
        earlierRepair: 'A friend of the keeper cleaned it with a brush.',
        otherGuess: 'The chipset is gone.',
        promised: day(now, 1),
        limitMinutes: 120,
      });
      const attached = ['memory', 'panel'];
      for (const [phase, drawAmps, drawShape] of [
        ['standby', 0.026, 'steady'],
        ['trying', 0.057, 'steady'],
      ] as const)
        log.add('Bench 1', {
          type: 'sign',
          phase,
          drawAmps,
          drawShape,
          seen: phase === 'trying' ? { offAfterSeconds: 2, fan: false } : {},
          source: { id: 'bench', volts: 19.5, limitAmps: 1 },
          attached,
          lastedSeconds: 20,
          text: '',
        });
      for (const item of [
        'source-off',
        'battery-out',
        'storage-out',
        'discharged',
        'coin-cell',
        'esd',
        'swollen-cell',
      ] as const)
        log.add('Bench 1', { type: 'safety', item, state: 'done' });
      const find = (kind: 'corrosion' | 'reworked', ref: string, text: string) =>
        log.add('Bench 1', { type: 'finding', kind, part: ref, text, place: placeOn(cairn, ref) });
      find('corrosion', 'PU4', 'white bloom between the pins');
      find('reworked', 'R45', 'flux around it');
      find('corrosion', 'J3', 'green at the edge');
      log.sweep(
        'Bench 1',
        cairn,
        { kind: 'pins-short', part: part('C40'), pins: ['1', '2'], ohms: 0.4 },
        56,
      );
      log.add('Bench 1', { type: 'time', minutes: 55 });
    }),
    job(8, now, 28, (log) => {
      log.intake(fell, {
        device: 'Fell 13 from the lower station',
        complaint: 'Starts and goes off; smells warm.',
        happened: ['wear'],
        history: 'Dust felt over the fan.',
        promised: day(now, 4),
        limitMinutes: 60,
      });
      log.add('Bench 2', {
        type: 'sign',
        phase: 'trying',
        drawAmps: 0.9,
        drawShape: 'steady',
        seen: { offAfterSeconds: 3 },
        text: '',
      });
      log.add('Bench 2', { type: 'time', minutes: 50 });
      log.later(2);
      log.add('Bench 2', {
        type: 'approval',
        found: 'The processor board gets hot at the core regulator.',
        asks: 'two hours more and a regulator, or return it unrepaired',
        minutes: 120,
      });
      log.add('Bench 2', { type: 'order', what: 'core regulator, as marked', part: 'U11' });
    }),
    ...endedJobs(cairn, fell, beck, now),
  ];
}

const day = (now: Date, ahead: number): string =>
  new Date(now.getTime() + ahead * 86_400_000).toISOString().slice(0, 10);

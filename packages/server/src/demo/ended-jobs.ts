import { placeInScheme, type Board, type PartRef } from '@jiko/core/board';
import { job, placeOn, type DemoJob } from './demo-log.ts';

/** One job ended in each other way. */
export function endedJobs(cairn: Board, fell: Board, beck: Board, now: Date): DemoJob[] {
  const part = (ref: string): PartRef => ref as PartRef;
  return [
    job(9, now, 260, (log) => {
      log.intake(fell, {
        device: 'Fell 13 from Sheep Fold',
        complaint: 'Starts, but its second screen stays dark.',
        happened: ['wear'],
        history: 'Six winters on the same shelf.',
        limitMinutes: 90,
      });
      log.trace('Bench 1', fell, { kind: 'dead', part: part('U2') }, 20);
      log.add('Bench 1', {
        type: 'repair',
        action: 'replaced',
        parts: ['U2'],
        text: 'gave nothing with its feed there',
        from: 'donor',
        measured: true,
      });
      log.later(1);
      log.trace('Bench 1', fell, null, 24);
      log.add('Bench 1', { type: 'time', minutes: 75 });
      log.add('Bench 1', { type: 'verify', item: 'goal', result: 'passed', text: '' });
      log.add('Bench 1', {
        type: 'verify',
        item: 'ports',
        result: 'failed',
        text: 'left port dead',
      });
      log.add('Bench 1', {
        type: 'close',
        outcome: 'partly',
        cause: 'The five-volt regulator had died.',
        proof: 'proven',
        reason: 'The port for the second screen is torn off its pads; the owner does without.',
        parts: ['U2'],
        how: 'dead',
        ...placeInScheme(fell, ['U2']),
      });
    }),
    job(10, now, 400, (log) => {
      log.intake(cairn, {
        device: 'Cairn 14 from the weir',
        complaint: 'Fell into the beck and lay there until morning.',
        happened: ['liquid', 'drop'],
        history: 'Dried on a stove.',
        keep: 'three years of water levels',
      });
      for (const ref of ['PU2', 'U40', 'PU9'])
        log.add('Bench 2', {
          type: 'finding',
          kind: 'corrosion',
          part: ref,
          text: 'pads eaten away',
          place: placeOn(cairn, ref),
        });
      log.add('Bench 2', { type: 'time', minutes: 60 });
      log.add('Bench 2', {
        type: 'close',
        outcome: 'data-saved',
        cause: 'Copper eaten away under three chips.',
        proof: 'supported',
        reason: 'The storage was read in another Cairn 14; the board is past repair.',
      });
      log.add('Bench 2', { type: 'handed-over' });
    }),
    job(11, now, 330, (log) => {
      log.intake(cairn, {
        device: 'Cairn 14, reserve of Bleak Fell',
        complaint: 'Goes off once a week, never while anyone looks.',
        happened: ['not-known'],
        history: '',
      });
      log.trace('Bench 1', cairn, null, 40);
      log.add('Bench 1', { type: 'repair', action: 'reflowed', parts: ['PU6'], text: 'to see' });
      log.later(1);
      log.add('Bench 1', { type: 'time', minutes: 150 });
      log.add('Bench 1', {
        type: 'close',
        outcome: 'not-found',
        cause: '',
        proof: 'not-found',
        reason: 'A soak of two days showed nothing; it goes back to be watched.',
        left: [
          {
            title: 'goes off when it is warm',
            probability: 0.4,
            separate:
              'Note the seconds cold and after a short rest; then the cooler and its paste.',
          },
          {
            title: 'Joint of a memory module',
            probability: 0.2,
            separate: 'Another module, then the slot looked at under the microscope.',
          },
        ],
      });
    }),
    job(12, now, 500, (log) => {
      log.intake(beck, {
        device: 'Beck mini, station 2',
        complaint: 'Nothing at all since the flood.',
        happened: ['liquid'],
        history: 'Stood in water for a night.',
      });
      log.add('Bench 2', {
        type: 'close',
        outcome: 'not-worth',
        cause: '',
        proof: 'not-found',
        reason: 'Another one from the store costs less than the hours to clean it.',
      });
      log.add('Bench 2', { type: 'handed-over' });
    }),
    job(13, now, 450, (log) => {
      log.intake(fell, {
        device: 'Fell 13 from the old mast',
        complaint: 'Hinge broken, and it starts only now and then.',
        happened: ['drop'],
        history: '',
        limitMinutes: 30,
      });
      log.add('Bench 1', {
        type: 'approval',
        found: 'The board is cracked beside the hinge.',
        asks: 'three hours of wires under the microscope',
        minutes: 180,
      });
      log.add('Bench 1', {
        type: 'close',
        outcome: 'declined',
        cause: 'Board cracked beside the hinge.',
        proof: 'supported',
        reason: 'The owner takes a new one.',
      });
      log.add('Bench 1', { type: 'handed-over' });
    }),
  ];
}

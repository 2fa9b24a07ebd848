import { expect, it } from 'vitest';
import { makePlayerPool, type RemotePlayer } from './player-pool.ts';

/** Workers that note what they are told, and end when the test says so. */
function workers() {
  const made: { log: string[]; settle: { done: () => void; fail: (_: Error) => void } }[] = [];
  const newPlayer = makePlayerPool(() => {
    const one = { log: [] as string[], settle: { done: () => {}, fail: () => {} } as never };
    made.push(one);
    return {
      make: () => {
        one.log.push('make');
        return new Promise<void>((done, fail) => Object.assign(one, { settle: { done, fail } }));
      },
      hold: async (isHeld) => void one.log.push(isHeld ? 'wait' : 'go on'),
      stop: async () => void one.log.push('stop'),
      terminate: () => one.log.push('terminate'),
    } satisfies RemotePlayer;
  });
  return { made, newPlayer };
}
const words = [
  {},
  {},
  new Int32Array(),
  { index: 0, of: 1 },
  () => undefined,
] as never as Parameters<RemotePlayer['make']>;

it('a player that ended is told to stop and plays the next board; two at once are two', () => {
  const { made, newPlayer } = workers();
  const [first, second] = [newPlayer(), newPlayer()];
  void first.make(...words);
  first.end();
  const third = newPlayer();
  void third.make(...words);
  expect(made.map((one) => one.log)).toEqual([['make', 'stop', 'make'], []]);
  second.end();
  third.end();
  newPlayer();
  newPlayer();
  expect(made).toHaveLength(2);
});

it('whoever ended lets no worker wait: it may play for another by then', () => {
  const { made, newPlayer } = workers();
  const first = newPlayer();
  first.hold(true);
  first.end();
  const second = newPlayer();
  first.hold(true);
  second.hold(false);
  expect(made[0]!.log).toEqual(['wait', 'stop', 'go on']);
});

it('ended twice, a player is given to one other only', () => {
  const { made, newPlayer } = workers();
  const first = newPlayer();
  first.end();
  first.end();
  newPlayer();
  newPlayer();
  expect(made).toHaveLength(2);
});

it('one that failed says why and is not used again', async () => {
  const { made, newPlayer } = workers();
  const first = newPlayer();
  const making = first.make(...words);
  made[0]!.settle.fail(new Error('no room'));
  await expect(making).rejects.toThrow('no room');
  first.end();
  newPlayer();
  expect(made).toHaveLength(2);
  expect(made[0]!.log).toEqual(['make', 'terminate']);
});

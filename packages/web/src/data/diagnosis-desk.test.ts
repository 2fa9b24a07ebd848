import { expect, it } from 'vitest';
import type { Board } from '@jiko/core/board';
import type { BenchNow, Diagnosis, Evidence } from '@jiko/core/diagnosis';
import type { Dictionary } from '@jiko/core/dictionary';
import { makeDesk, type Asked, type OtherBench, type Weigher } from './diagnosis-desk.ts';

// What one bench was asked must never be answered from another's plays.

const evidence = { readings: [] } as unknown as Evidence;
const now = {} as BenchNow;
const dictionary = (key: string): Dictionary => ({ key }) as Dictionary;
const asked = (key: string, words = 'a'): Asked => ({
  board: { hash: words } as Board,
  bench: { source: 'adapter', attached: [], lifted: [] } as never,
  dictionary: dictionary(key),
});
const other = (key: string): OtherBench => ({
  sheet: 'a',
  bench: { source: key } as never,
  dictionary: dictionary(key),
});

/** Answers with the plays and the words it holds when it comes to it, each step a while after the one before. */
function slowWeigher(): Weigher & { log: string[]; failsNext: boolean } {
  let holds = 'nothing';
  const later = async (): Promise<void> => {
    for (let turn = 0; turn < 3; turn++) await Promise.resolve();
  };
  const weigher = {
    log: [] as string[],
    failsNext: false,
    async prepare({ hash }: Board, _: unknown, plays: Dictionary) {
      weigher.log.push(`prepare sheet ${hash} ${plays.key}`);
      await later();
      if (weigher.failsNext) {
        weigher.failsNext = false;
        throw new Error('no room');
      }
      holds = `sheet ${hash} ${plays.key}`;
    },
    async alsoKnow(_: unknown, plays: Dictionary) {
      weigher.log.push(`also ${plays.key}`);
      await later();
      holds += ` + ${plays.key}`;
    },
    async diagnose() {
      await later();
      return holds as unknown as Diagnosis;
    },
    async draws() {
      await later();
      return [holds] as never;
    },
  };
  return weigher;
}

const deskOf = (weigher: Weigher) => {
  const desk = makeDesk(() => weigher);
  return {
    ...desk,
    ask: (key: string, words?: string, others: OtherBench[] = []) =>
      desk.diagnose(asked(key, words), others, evidence, now) as unknown as Promise<string>,
  };
};

it('two questions at once are each answered from their own plays', async () => {
  const { ask, draws } = deskOf(slowWeigher());
  const answers = await Promise.all([ask('battery'), ask('adapter'), draws(asked('battery'))]);
  expect(answers).toEqual(['sheet a battery', 'sheet a adapter', ['sheet a battery']]);
});

it('plays are handed over once, for as long as they are the ones that are asked', async () => {
  const weigher = slowWeigher();
  const { ask } = deskOf(weigher);
  await Promise.all([ask('adapter'), ask('adapter')]);
  await ask('adapter');
  expect(weigher.log).toEqual(['prepare sheet a adapter']);
});

it('a version of the sheet that differs in words alone takes its own words with it', async () => {
  const { ask } = deskOf(slowWeigher());
  expect(await ask('adapter', 'a')).toBe('sheet a adapter');
  expect(await ask('adapter', 'b')).toBe('sheet b adapter');
  expect(await ask('adapter', 'a')).toBe('sheet a adapter');
});

it('is told of plays of other benches once, and again when it holds another', async () => {
  const weigher = slowWeigher();
  const { ask } = deskOf(weigher);
  expect(await ask('adapter', 'a', [other('battery')])).toBe('sheet a adapter + battery');
  expect(await ask('adapter', 'a', [other('battery'), other('usb')])).toBe(
    'sheet a adapter + battery + usb',
  );
  expect(await ask('adapter', 'b', [other('battery')])).toBe('sheet b adapter + battery');
  expect(weigher.log.filter((one) => one === 'also battery')).toHaveLength(2);
});

it('what failed is handed over anew, and keeps nobody else waiting', async () => {
  const weigher = slowWeigher();
  weigher.failsNext = true;
  const { ask } = deskOf(weigher);
  const [first, second] = await Promise.allSettled([ask('adapter'), ask('adapter')]);
  expect(first).toMatchObject({ status: 'rejected', reason: new Error('no room') });
  expect(second).toEqual({ status: 'fulfilled', value: 'sheet a adapter' });
});

it('begins anew once a reading was struck out: nothing that was grown for it stays', async () => {
  const weigher = slowWeigher();
  const desk = makeDesk(() => weigher);
  const of = (...ids: string[]): Evidence =>
    ({ readings: ids.map((id) => ({ id })) }) as unknown as Evidence;
  const ask = (known: Evidence) => desk.diagnose(asked('a'), [other('b')], known, now);
  await ask(of('1'));
  await ask(of('1', '2'));
  expect(weigher.log).toEqual(['prepare sheet a a', 'also b']);
  await ask(of('1'));
  expect(weigher.log).toEqual(['prepare sheet a a', 'also b', 'prepare sheet a a', 'also b']);
  await ask(of('1', '3'));
  expect(weigher.log).toHaveLength(4);
});

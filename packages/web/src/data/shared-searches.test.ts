import { describe, expect, it } from 'vitest';
import type { Making } from './dictionary-search.ts';
import { makeSharedSearches, type Seat, type Standing } from './shared-searches.ts';

const working: Making = { state: 'working', done: 3, total: 9, sofar: null, enough: false };
const failed: Making = { state: 'failed', because: 'the sheet does not play' };

/** A search that does nothing by itself; the test says how it stands. */
interface ByHand {
  tell(making: Making): void;
  note(text: string): void;
  started: number;
  held: boolean;
  ended: boolean;
}

function bench() {
  const searches = makeSharedSearches();
  const begun = new Map<string, ByHand[]>();
  const join = (subject: string, sheet = 'sheet one') => {
    const heard: Standing[] = [];
    const seat: Seat = searches.join(
      subject,
      sheet,
      (tell, note) => {
        const search: ByHand = { tell, note, started: 0, held: false, ended: false };
        begun.set(subject, [...(begun.get(subject) ?? []), search]);
        return {
          start: () => search.started++,
          cancel: () => tell({ state: 'none' }),
          hold: (isHeld) => (search.held = isHeld),
          end: () => (search.ended = true),
        };
      },
      (standing) => heard.push(standing),
    );
    return { seat, heard };
  };
  const of = (subject: string): ByHand => begun.get(subject)!.at(-1)!;
  return { join, of, times: (subject: string) => begun.get(subject)?.length ?? 0 };
}

describe('searches that outlive the page that began them', () => {
  it('go on when the page is left, and the next page hears at once how they stand', () => {
    const { join, of, times } = bench();
    const door = join('adapter');
    door.seat.start();
    of('adapter').tell(working);
    of('adapter').note('played anew');
    door.seat.leave();
    expect(of('adapter').ended).toBe(false);
    expect(of('adapter').held).toBe(false);
    of('adapter').tell({ ...working, done: 5 });
    expect(door.heard.at(-1)?.making).toEqual(working);
    const trace = join('adapter');
    expect(times('adapter')).toBe(1);
    expect(trace.heard).toEqual([{ making: { ...working, done: 5 }, note: 'played anew' }]);
  });

  it('wait while another is played that somebody waits for', () => {
    const { join, of } = bench();
    const adapter = join('adapter');
    of('adapter').tell(working);
    adapter.seat.leave();
    const battery = join('battery');
    expect(of('adapter').held).toBe(false);
    of('battery').tell(working);
    expect(of('adapter').held).toBe(true);
    of('battery').tell({ state: 'none' });
    expect(of('adapter').held).toBe(false);
    of('battery').tell(working);
    // Whoever comes back to it waits no longer than for the other.
    join('adapter');
    expect(of('adapter').held).toBe(false);
    battery.seat.leave();
    expect(of('battery').held).toBe(true);
  });

  it('are held by whoever takes part, not by one that left', () => {
    const { join, of } = bench();
    const one = join('adapter');
    one.seat.hold(true);
    expect(of('adapter').held).toBe(true);
    one.seat.leave();
    expect(of('adapter').held).toBe(false);
    one.seat.hold(true);
    expect(of('adapter').held).toBe(false);
  });

  it('end when another sheet is asked about, but for those somebody takes part in', () => {
    const { join, of } = bench();
    const left = join('adapter');
    join('battery');
    left.seat.leave();
    join('adapter of two', 'sheet two');
    expect(of('adapter').ended).toBe(true);
    expect(of('battery').ended).toBe(false);
  });

  it('are kept for three benches that nobody takes part in, the oldest goes first', () => {
    const { join, of } = bench();
    for (const name of ['a', 'b', 'c', 'd']) join(name).seat.leave();
    expect(of('a').ended).toBe(false);
    join('e');
    expect(of('a').ended).toBe(true);
    expect(of('b').ended).toBe(false);
  });

  it('that failed say why to whoever comes while somebody still takes part', () => {
    const { join, of, times } = bench();
    const first = join('adapter');
    of('adapter').tell(failed);
    expect(join('adapter').heard[0]?.making).toEqual(failed);
    first.seat.leave();
    expect(times('adapter')).toBe(1);
  });

  it('begin anew after a failure that everybody left', () => {
    const { join, of, times } = bench();
    const first = join('adapter');
    of('adapter').tell(failed);
    first.seat.leave();
    expect(join('adapter').heard[0]?.making).toEqual({ state: 'none' });
    expect(times('adapter')).toBe(2);
  });
});

import { describe, expect, it } from 'vitest';
import type { DictionarySearch, Making } from './dictionary-search.ts';
import { heardSearch, makeSearchesAhead, type HeardSearch } from './searches-ahead.ts';

interface ByHand {
  heard: HeardSearch;
  tell: (making: Making) => void;
  tellUnreadable: () => void;
  isEnded: () => boolean;
}

function byHand(): ByHand {
  let ended = false;
  let told = { tell: (_: Making): void => undefined, tellUnreadable: (): void => undefined };
  const search: DictionarySearch = {
    start: () => undefined,
    cancel: () => undefined,
    hold: () => undefined,
    end: () => (ended = true),
  };
  const heard = heardSearch((tell, tellUnreadable) => {
    told = { tell, tellUnreadable };
    return search;
  });
  return { heard, ...told, isEnded: () => ended };
}
const working = (done: number): Making => ({
  state: 'working',
  done,
  total: 9,
  sofar: null,
  enough: false,
});

describe('a search begun before the page asks', () => {
  it('tells who comes later how it stands, and then all that follows', () => {
    const one = byHand();
    one.tell(working(1));
    one.tell(working(2));
    const news: string[] = [];
    one.heard.listen(
      (making) => news.push(making.state === 'working' ? `${making.done}` : making.state),
      () => news.push('unreadable'),
    );
    one.tell(working(3));
    one.tellUnreadable();
    expect(news).toEqual(['2', '3', 'unreadable']);
    // Where nothing was told yet nothing is made up; what could not be read is said to the next as well.
    const quiet: string[] = [];
    byHand().heard.listen(
      () => quiet.push('told'),
      () => quiet.push('unreadable'),
    );
    expect(quiet).toEqual([]);
    one.heard.listen(
      () => undefined,
      () => quiet.push('unreadable'),
    );
    expect(quiet).toEqual(['unreadable']);
  });

  it('is handed to who asks for its subject, once, and is then the asker’s to end', () => {
    const ahead = makeSearchesAhead();
    const one = byHand();
    ahead.begin('new sheet', () => one.heard);
    expect(ahead.take('old sheet')).toBeNull();
    expect(ahead.take('new sheet')).toBe(one.heard);
    expect(ahead.take('new sheet')).toBeNull();
    ahead.drop();
    expect(one.isEnded()).toBe(false);
  });

  it('ends when the sheet was not saved, or another is begun', () => {
    const ahead = makeSearchesAhead();
    const [one, two] = [byHand(), byHand()];
    ahead.begin('one', () => one.heard);
    ahead.begin('two', () => two.heard);
    expect([one.isEnded(), two.isEnded()]).toEqual([true, false]);
    ahead.drop();
    expect(two.isEnded()).toBe(true);
    expect(ahead.take('two')).toBeNull();
  });
});

import { describe, expect, it } from 'vitest';
import { rebaseRows } from './rebase-rows.ts';

const row = (was: string | null, name: string, value = '') => ({ was, name, value });

describe('a cell typed while the table is behind the text', () => {
  const shown = [row('R1', 'R1', '1k'), row('R2', 'R2', '2k')];

  it('changes its own row and leaves what the text says of the others', () => {
    const now = [row('R1', 'R1', '10k'), row('R2', 'R2', '2k'), row('R3', 'R3', '3k')];
    const left = [row('R1', 'R1', '1k'), row('R2', 'R2', '22k')];
    expect(rebaseRows(shown, left, now)).toEqual([
      row('R1', 'R1', '10k'),
      row('R2', 'R2', '22k'),
      row('R3', 'R3', '3k'),
    ]);
  });

  it('takes out what was taken out on either side, and keeps what is new on either', () => {
    const now = [row('R2', 'R2', '2k')];
    expect(rebaseRows(shown, [row('R1', 'R1', '1k'), row(null, 'C9', '1u')], now)).toEqual([
      row(null, 'C9', '1u'),
    ]);
  });

  it('with the table in step is what was left', () => {
    const left = [row('R1', 'R7', '1k'), row('R2', 'R2', '2k'), row(null, '', '')];
    expect(rebaseRows(shown, left, shown)).toEqual(left);
  });
});

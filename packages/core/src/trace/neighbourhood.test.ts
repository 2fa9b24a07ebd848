import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import fell from '../../../../sheets/fell-13.yaml?raw';
import { loadSheet, type NetId } from '../board/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { neighbourhoodOf, type Neighbourhood } from './index.ts';

const studied = (text: string) => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('the sheet does not load');
  return studyHealthyBoard(loaded.value);
};
const boards = { cairn: studied(cairn), fell: studied(fell) };
const around = (board: keyof typeof boards, net: string): Neighbourhood =>
  neighbourhoodOf(boards[board], net as NetId);
const linkText = ({ links }: Neighbourhood): string[] =>
  links.map(({ from, role, via, to }) => `${from} ${role} ${via} ${to}`);

describe('what stands about a net', () => {
  // By the chips' own lines on the sheet: what each needs, gives and says good.
  it('names feed, enable and supply of the rail’s regulator, and what its output serves', () => {
    const links = linkText(around('fell', '1V05_PRIM'));
    expect(links).toEqual(
      expect.arrayContaining([
        '5V_AON feed U7 1V05_PRIM',
        '1V8_PRIM supply U7 1V05_PRIM',
        'PRIM_EN enable U7 1V05_PRIM',
      ]),
    );
    expect(links.some((one) => one.startsWith('1V05_PRIM ') && one.includes('RSMRST#'))).toBe(
      false,
    );
  });

  it('follows an input FET back to its feed and its gate', () => {
    expect(linkText(around('cairn', 'VA_MID'))).toEqual(
      expect.arrayContaining([expect.stringMatching(/^VIN feed PQ\d VA_MID$/)]),
    );
    expect(around('cairn', 'VA_MID').links.some((one) => one.role === 'gate')).toBe(true);
  });

  it('is small enough to be taken in, hangs together and holds the net itself, for every net', () => {
    for (const healthy of Object.values(boards)) {
      for (const { id, kind } of healthy.board.nets) {
        if (kind === 'ground') continue;
        const { nets, links } = neighbourhoodOf(healthy, id);
        expect(nets[0]).toEqual({ net: id, place: 'centre' });
        expect(nets.length).toBeLessThanOrEqual(11);
        const known = new Set(nets.map((one) => one.net));
        for (const one of links) expect(known.has(one.from) && known.has(one.to), id).toBe(true);
        for (const { net, place } of nets)
          if (place !== 'centre')
            expect(
              links.some((one) => one.from === net || one.to === net),
              `${id} ${net}`,
            ).toBe(true);
      }
    }
  });
});

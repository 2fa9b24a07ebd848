import { describe, expect, it } from 'vitest';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import type { BoardPlace } from '@jiko/contract';
import { drawnPicture, loadSheet } from '@jiko/core/board';
import { snapTo, spotsOn } from './picture-places.ts';

const loaded = loadSheet(cairn);
if (!loaded.ok) throw new Error('the demo sheet does not load');
const board = loaded.value;
const drawn = drawnPicture(board);
const photo = '00000000-0000-4000-8000-000000000001';
const aspect = drawn.width / drawn.height;
const spot = (spots: ReturnType<typeof spotsOn>, ref: string) =>
  spots.find((one) => one.ref === ref);
/** A photo of the top side at half the size in its middle. */
const place = (ref: string): BoardPlace => {
  const { u, v } = drawn.placeOf(ref)!;
  return {
    ref,
    frame: photo,
    who: 'Bench 1',
    at: { side: 'top', u: 0.25 + u / 2, v: 0.25 + v / 2 },
  };
};

describe('where parts are on a picture', () => {
  it('comes from the sheet while it is drawn, one side at a time', () => {
    const top = spotsOn(board, drawn, [], { side: 'top', frame: 'drawn', aspect });
    expect(spot(top, 'PQ1')).toMatchObject({ how: 'sheet' });
    expect(spot(top, 'PQ3')).toBeUndefined();
    const bottom = spotsOn(board, drawn, [], { side: 'bottom', frame: 'drawn', aspect });
    expect(spot(bottom, 'PQ3')).toMatchObject({ how: 'sheet' });
  });

  it('on a photo needs parts placed by hand; two of them carry all others over', () => {
    const shown = { side: 'top', frame: photo, aspect } as const;
    const one = spotsOn(board, drawn, [place('J1')], shown);
    expect(one.map((at) => at.ref)).toEqual(['J1']);
    const two = spotsOn(board, drawn, [place('J1'), place('J6')], shown);
    const { u, v } = drawn.placeOf('PQ1')!;
    expect(spot(two, 'PQ1')).toMatchObject({ how: 'aligned' });
    expect(spot(two, 'PQ1')!.u).toBeCloseTo(0.25 + u / 2, 9);
    expect(spot(two, 'PQ1')!.v).toBeCloseTo(0.25 + v / 2, 9);
  });

  it('a part placed by hand stays where it was put; places on other pictures do not count', () => {
    const moved: BoardPlace = { ...place('PQ1'), at: { side: 'top', u: 0.9, v: 0.9 } };
    const shown = { side: 'top', frame: photo, aspect } as const;
    const spots = spotsOn(board, drawn, [place('J1'), place('J6'), moved], shown);
    expect(spot(spots, 'PQ1')).toEqual({ ref: 'PQ1', u: 0.9, v: 0.9, how: 'placed' });
    const drawnSpots = spotsOn(board, drawn, [moved], { ...shown, frame: 'drawn' });
    expect(spot(drawnSpots, 'PQ1')?.how).toBe('sheet');
  });

  it('points of the sheet stand by themselves once somebody placed them', () => {
    const shown = { side: 'top', frame: 'drawn', aspect } as const;
    expect(spot(spotsOn(board, drawn, [], shown), 'TP3')).toBeUndefined();
    const placed: BoardPlace = { ...place('TP3'), frame: 'drawn' };
    expect(spot(spotsOn(board, drawn, [placed], shown), 'TP3')).toMatchObject({ how: 'placed' });
  });

  it('a click means the part next to it, and nothing far from any', () => {
    const spots = spotsOn(board, drawn, [], { side: 'top', frame: 'drawn', aspect });
    const { u, v } = drawn.placeOf('F1')!;
    expect(snapTo(spots, { u: u + 0.004, v }, aspect)?.ref).toBe('F1');
    expect(snapTo(spots, { u: 0.5, v: 0.01 }, aspect)).toBeNull();
  });
});

import { describe, expect, it } from 'vitest';
import { loadSheet, type NetId } from '@jiko/core/board';
import { studyHealthyBoard } from '@jiko/core/expectations';
import { neighbourhoodOf } from '@jiko/core/trace';
import cairnText from '../../../../../sheets/cairn-14.yaml?raw';
import { drawNeighbourhood, netBeside, netSize, type Drawing } from './neighbourhood-layout.ts';

const loaded = loadSheet(cairnText);
if (!loaded.ok) throw new Error('the sheet does not load');
const healthy = studyHealthyBoard(loaded.value);
const of = (net: string): Drawing => drawNeighbourhood(neighbourhoodOf(healthy, net as NetId));
const rails = loaded.value.stages.flatMap((stage) => stage.gives);

describe('the drawing beside the probe', () => {
  it.each(rails)('of %s: what is needed stands left of it, nothing lies upon anything', (net) => {
    const { nets, parts, width, height } = of(net);
    const centre = nets.find((one) => one.place === 'centre')!;
    expect(centre.net).toBe(net);
    for (const one of nets) {
      if (one !== centre) expect(one.x, one.net).toBeLessThan(centre.x);
      expect(one.x - netSize.width / 2).toBeGreaterThanOrEqual(0);
      expect(one.x + netSize.width / 2).toBeLessThanOrEqual(width + 1);
      expect(one.y + netSize.height / 2).toBeLessThanOrEqual(height + 1);
    }
    const boxes = [
      ...nets.map((one) => ({ name: String(one.net), x: one.x, y: one.y, ...netSize })),
      ...parts.map((one) => ({ ...one, name: one.ref })),
    ];
    boxes.forEach((a, index) => {
      for (const b of boxes.slice(index + 1)) {
        const apart =
          Math.abs(a.x - b.x) >= (a.width + b.width) / 2 - 0.5 ||
          Math.abs(a.y - b.y) >= (a.height + b.height) / 2 - 0.5;
        expect(apart, `${a.name} and ${b.name}`).toBe(true);
      }
    });
  });

  it('each line begins at one box and ends at another, and carries its role', () => {
    const { lines, nets } = of('3V3_ALW');
    expect(lines.length).toBeGreaterThan(1);
    for (const { path, role } of lines) {
      expect(path).toMatch(/^M[-\d.]+ [-\d.]+C[-\d. ]+$/);
      expect(nets.some((one) => one.role === role) || role !== null).toBe(true);
    }
    expect(nets.find((one) => one.place === 'centre')!.role).toBeNull();
  });

  it('what waits for a net is named, not drawn', () => {
    const { nets, served } = of('VMAIN');
    expect(served.length).toBeGreaterThan(0);
    for (const net of served) expect(nets.some((one) => one.net === net)).toBe(false);
  });
});

describe('arrow keys', () => {
  const at = (net: string, x: number, y: number, place: 'centre' | 'needed' = 'needed') =>
    ({ net: net as NetId, x, y, place, role: null }) as Drawing['nets'][number];
  const drawing = {
    nets: [
      at('CENTRE', 500, 100, 'centre'),
      at('NEAR', 300, 90),
      at('HIGH', 300, 20),
      at('FAR', 100, 100),
    ],
  } as Drawing;
  const beside = (from: string, way: 'left' | 'right' | 'up' | 'down') =>
    netBeside(drawing, from as NetId, way);

  it.each([
    ['CENTRE', 'left', 'NEAR'],
    ['NEAR', 'left', 'FAR'],
    ['FAR', 'right', 'NEAR'],
    ['NEAR', 'right', 'CENTRE'],
    // Up and down keep to the column: what stands beside it is not above it.
    ['NEAR', 'up', 'HIGH'],
    ['HIGH', 'down', 'NEAR'],
    ['CENTRE', 'up', null],
    ['CENTRE', 'right', null],
    ['FAR', 'left', null],
  ] as const)('from %s %s: %s', (from, way, to) => {
    expect(beside(from, way)).toBe(to);
  });

  it('from where nothing is chosen they lead to the net itself', () => {
    expect(beside('ELSEWHERE', 'left')).toBe('CENTRE');
  });
});

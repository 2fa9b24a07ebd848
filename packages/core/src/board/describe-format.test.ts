import { describe, expect, it } from 'vitest';
import page from '../../../../docs/sheet.md?raw';
import { usualBehaviours } from './chip-kinds.ts';
import { pinsNamed } from './build-board.ts';
import { chipPins } from './chip-pins.ts';
import { describeFormat } from './describe-format.ts';
import { loadSheet } from './load-sheet.ts';
import { chipKinds, partKinds, sheetKeys, type SheetChip } from './sheet-schema.ts';

describe('docs/sheet.md', () => {
  it('is what the schema and the kinds say: run npm run docs:sheet where this fails', () => {
    expect(page).toBe(describeFormat());
  });

  it('names every key and every kind', () => {
    for (const key of sheetKeys()) expect(page).toMatch(new RegExp(`\\b${key}\\b`));
    for (const kind of [...partKinds, ...chipKinds]) expect(page).toContain(`\`${kind}\``);
  });

  it('knows every pin the kinds behave by', () => {
    for (const kind of chipKinds) {
      const { pins } = chipPins[kind];
      const chip = {
        kind,
        pins: Object.fromEntries(pins.map((pin) => [pin, 'N'])),
        draws: {},
        does: [],
        fitted: true,
      } as unknown as SheetChip;
      for (const one of usualBehaviours(chip))
        for (const pin of pinsNamed(one))
          expect([kind, pins]).toEqual([kind, expect.arrayContaining([pin])]);
    }
  });

  it('has examples that load', () => {
    const lines = [...page.matchAll(/```yaml\n([\s\S]*?)```/g)].map((match) => match[1]).join('');
    const named = new Set(lines.match(/\b[A-Z0-9_#+]{3,}\b#?/g) ?? []);
    expect(named.size).toBeGreaterThan(10);
    const nets = [...named, 'GND', 'VMAIN', 'PWRBTN#', 'PLTRST#'].filter(
      (name) => !['R10', 'U6', 'TP4', '3V3_ALW', 'VIN', 'OUT'].includes(name),
    );
    const text = `format: jiko-board/1\nid: of-the-page\ntitle: Of the page\ndepth: chips\n${lines.replace(
      'nets:\n',
      `nets:\n${[...new Set(nets)].map((net) => `  "${net}": ${net === 'GND' ? '{ kind: ground }' : '{ kind: rail, volts: 3 }'}`).join('\n')}\n`,
    )}`;
    const loaded = loadSheet(text);
    expect(loaded.ok ? [] : loaded.error).toEqual([]);
  });
});

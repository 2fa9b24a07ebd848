import { expect, it } from 'vitest';
import beck from '../../../../../sheets/beck-mini.yaml?raw';
import { loadSheet } from '../../board/index.ts';
import { makeDictionary } from '../../dictionary/index.ts';
import { usualSetup } from '../../play/index.ts';
import { dictionaryCsv } from './dictionary-csv.ts';

it('a dictionary is a CSV matrix: six lines each for the healthy board and every fault', () => {
  const loaded = loadSheet(beck);
  if (!loaded.ok) throw new Error('the demo sheet does not load');
  const making = makeDictionary(loaded.value, usualSetup(loaded.value));
  let step = making.next();
  while (!step.done) step = making.next();
  const dictionary = step.value;
  const lines = dictionaryCsv(dictionary).trimEnd().split('\r\n');
  expect(lines).toHaveLength(1 + 6 * (1 + dictionary.faults.length));
  expect(lines[0]).toContain('fault,reading,trusted,amps,1V2_MEM');
  const run = lines.find((line) => line.startsWith('healthy,volts run')) ?? '';
  const place = (lines[0] ?? '').split(',').indexOf('1V2_MEM');
  expect(Number(run.split(',')[place])).toBeCloseTo(1.2, 1);
});

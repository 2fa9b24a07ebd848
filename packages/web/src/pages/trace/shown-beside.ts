import { z } from 'zod';
import { useKept } from '../../data/kept.ts';

/** Left of the probe: the stages, or the pages of the schematic. */
export type Shown = 'ladder' | 'schematic';
const key = 'jiko-beside-the-probe';
const shownSchema = z.enum(['ladder', 'schematic']);

/** What stands beside the probe; each bench keeps its own habit. */
export const useShownBeside = (): [Shown, (shown: Shown) => void] =>
  useKept(key, shownSchema, 'ladder');

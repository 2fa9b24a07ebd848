import { z } from 'zod';
import { useKept } from '../../data/kept.ts';

const isShown = z.boolean();

/** Per cent and further suspects, or what a reading could mean: folded until asked for, then as left. */
export const useFiguresShown = (of: 'suspects' | 'outcomes'): [boolean, (is: boolean) => void] =>
  useKept(`jiko-figures-of-${of}`, isShown, false);

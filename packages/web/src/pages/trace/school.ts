import { z } from 'zod';
import { useKept } from '../../data/kept.ts';

/**
 * In which order points are proposed: from the input on, the one that splits the suspects best, or
 * what was seen damaged first.
 */
export const schools = ['walk', 'shortest', 'looks'] as const;
export type School = (typeof schools)[number];

const key = 'jiko-school';

const schoolSchema = z.enum(schools);

export const useSchool = (): [School, (school: School) => void] =>
  useKept<School>(key, schoolSchema, 'walk');

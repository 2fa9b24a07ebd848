import { useState } from 'react';

/**
 * In which order points are proposed: from the input on, the one that splits the suspects best, or
 * what was seen damaged first.
 */
export const schools = ['walk', 'shortest', 'looks'] as const;
export type School = (typeof schools)[number];

const key = 'jiko-school';

export function useSchool(): [School, (school: School) => void] {
  const [school, setSchool] = useState<School>(() => {
    const kept = localStorage.getItem(key) as School;
    return schools.includes(kept) ? kept : 'walk';
  });
  return [
    school,
    (next) => {
      setSchool(next);
      localStorage.setItem(key, next);
    },
  ];
}

import { useState } from 'react';

/** In which order points are proposed: from the input on, or the one that splits the suspects best. */
export type School = 'walk' | 'shortest';

const key = 'jiko-school';

export function useSchool(): [School, (school: School) => void] {
  const [school, setSchool] = useState<School>(() =>
    localStorage.getItem(key) === 'shortest' ? 'shortest' : 'walk',
  );
  return [
    school,
    (next) => {
      setSchool(next);
      localStorage.setItem(key, next);
    },
  ];
}

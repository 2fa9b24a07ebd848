import { useEffect } from 'react';

const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/**
 * What a window is called by its address: the view, and the job or board it shows, so that two windows of a
 * bench can be told apart. `device` is the name of the job, null while it is not known.
 */
export function windowTitle(pathname: string, device: string | null): string {
  const [first = '', id = '', view = ''] = pathname.split('/').filter(Boolean);
  const names =
    first === 'jobs' && id === 'new'
      ? ['New job']
      : first === 'jobs' && id
        ? [device ?? '', upper(view)]
        : first === 'boards' && id
          ? [id, view ? upper(view) : 'Play']
          : [upper(first)];
  return [...names.filter(Boolean), 'Jiko'].join(' · ');
}

/** Null leaves the title to whoever knows it. */
export function useWindowTitle(pathname: string | null, device: string | null = null): void {
  const title = pathname === null ? null : windowTitle(pathname, device);
  useEffect(() => {
    if (title !== null) document.title = title;
  }, [title]);
}

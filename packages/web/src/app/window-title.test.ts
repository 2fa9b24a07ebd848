import { describe, expect, it } from 'vitest';
import { windowTitle } from './window-title.ts';

describe('a window is called', () => {
  it.each([
    ['/jobs', null, 'Jobs · Jiko'],
    ['/jobs/new', null, 'New job · Jiko'],
    ['/jobs/6f0e/trace', 'Heron 15, blue', 'Heron 15, blue · Trace · Jiko'],
    ['/jobs/6f0e/report', null, 'Report · Jiko'],
    ['/boards', null, 'Boards · Jiko'],
    ['/boards/cairn-14', null, 'cairn-14 · Play · Jiko'],
    ['/boards/cairn-14/edit', null, 'cairn-14 · Edit · Jiko'],
    ['/sums', null, 'Sums · Jiko'],
    ['/', null, 'Jiko'],
  ])('%s with %s: %s', (pathname, device, title) => {
    expect(windowTitle(pathname, device)).toBe(title);
  });
});

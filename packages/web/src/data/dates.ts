import { z } from 'zod';
import { kept, useKept } from './kept.ts';

// Days and times as this browser shows them: by Intl, in the way of a region. The words stay English, as the
// rest of the pages; what goes out in files and reports is not touched by it.

/** Ways to write a day; the first one is the region of the browser. */
export const dateWays = [
  { id: 'browser', title: 'as this browser' },
  { id: 'day-first', title: 'day first' },
  { id: 'month-first', title: 'month first' },
  { id: 'iso', title: 'year first, by numbers' },
] as const;
export type DateWay = (typeof dateWays)[number]['id'];

const key = 'jiko-dates';
const usual: DateWay = 'browser';
const waySchema = z.enum(dateWays.map(({ id }) => id));

export const useDateWay = (): [DateWay, (next: DateWay) => void] => useKept(key, waySchema, usual);

/** English as it is written in a region: `en-DE` puts the day first and counts hours to 24. */
function localeOf(of: DateWay): string {
  if (of === 'day-first') return 'en-GB';
  if (of === 'month-first') return 'en-US';
  if (of === 'iso') return 'en-CA';
  const region = new Intl.Locale(navigator.language || 'en-GB').maximize().region ?? 'GB';
  return `en-${region}`;
}

const parts = {
  /** 1 Dec 2026 */
  day: { day: 'numeric', month: 'short', year: 'numeric' },
  /** Tue, 1 Dec */
  weekday: { weekday: 'short', day: 'numeric', month: 'short' },
  /** Tuesday, 1 December */
  promised: { weekday: 'long', day: 'numeric', month: 'long' },
  /** Tue, 1 Dec, 14:05 */
  moment: { weekday: 'short', day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' },
  /** 1 Dec, 14:05 */
  entry: { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' },
  /** 1 Dec 2026, 14:05 */
  version: {
    day: 'numeric',
    month: 'short',
    year: 'numeric',
    hour: '2-digit',
    minute: '2-digit',
  },
  /** Tue 14:05 */
  time: { weekday: 'short', hour: '2-digit', minute: '2-digit' },
} satisfies Record<string, Intl.DateTimeFormatOptions>;

/**
 * A day or moment in words. `at` is an ISO date (a day of this place) or an ISO moment. Text that is neither
 * stands as it is.
 */
export function dateText(
  at: string,
  shows: keyof typeof parts,
  of: DateWay = kept(key, waySchema, usual),
): string {
  // A day alone would be midnight in Greenwich: the day before in half of the world.
  const date = new Date(/^\d{4}-\d\d-\d\d$/.test(at) ? `${at}T00:00` : at);
  if (Number.isNaN(date.getTime())) return at;
  const asked: Intl.DateTimeFormatOptions = parts[shows];
  const options: Intl.DateTimeFormatOptions =
    of === 'iso' && asked.month
      ? { ...asked, year: 'numeric', month: '2-digit', day: '2-digit' }
      : asked;
  const hour = options.hour && of !== 'month-first' ? { hourCycle: 'h23' as const } : {};
  return new Intl.DateTimeFormat(localeOf(of), {
    ...options,
    ...(of === 'browser' ? {} : hour),
  }).format(date);
}

const asDay = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

/** `1 December 2026`, by the clock of whoever reads it, from a moment or a day in ISO 8601; other text as it is. */
export function dayText(iso: string): string {
  const moment = new Date(/^\d{4}-\d\d-\d\d$/.test(iso) ? `${iso}T00:00` : iso);
  return Number.isNaN(moment.getTime()) ? iso : asDay.format(moment);
}

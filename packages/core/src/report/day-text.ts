const months = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

/** `1 December 2026` from `2026-12-01`; other text as it is. */
export function dayText(day: string): string {
  const [, year, month, date] = /^(\d{4})-(\d\d)-(\d\d)$/.exec(day) ?? [];
  const name = months[Number(month) - 1];
  return name ? `${Number(date)} ${name} ${year}` : day;
}

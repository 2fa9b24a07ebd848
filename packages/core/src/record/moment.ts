import { z } from 'zod';

/**
 * A moment that can be kept: RFC 3339 of a year of four digits that a clock may show. PostgreSQL takes
 * offsets below 16 hours, and no year 0; no clock tells more than nine digits of a second.
 */
export const momentSchema = z.iso
  .datetime({ offset: true })
  .max(40, 'has too many digits')
  .regex(/^[1-9]/, 'is of no year that can be kept')
  .regex(/(Z|[+-](0\d|1[0-5]):?[0-5]\d)$/, 'has an offset of 16 hours or more');

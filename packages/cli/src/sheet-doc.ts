import { writeFileSync } from 'node:fs';
import { describeFormat } from '@jiko/core/board';

// npm run docs:sheet: writes docs/sheet.md from the schema and the kinds.
writeFileSync(new URL('../../../docs/sheet.md', import.meta.url), describeFormat());

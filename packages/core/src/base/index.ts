export { ok, fail, type Result } from './result.ts';
export { unreachable } from './unreachable.ts';
export { seeded, draw, type Chance } from './seeded.ts';
export { contentHash } from './content-hash.ts';
export { serially } from './serially.ts';

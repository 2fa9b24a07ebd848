export { plainReading } from './plain-reading.ts';
export { shareDictionaries, sharedDictionary } from './shared-dictionary.ts';
export { plainEvents, plainIntake, plainJob } from './plain-job.ts';
export { plainBoard } from './plain-board.ts';
export { oneOfEach } from './one-of-each.ts';
export { walkJob, type WalkedTrace } from './walked-trace.ts';

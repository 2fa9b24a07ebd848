export { hideFaults, type HiddenBoard, type HidingSettings } from './hidden-board.ts';
export { plainReading } from './plain-reading.ts';
export { shareDictionaries, sharedDictionary } from './shared-dictionary.ts';
export { plainEvents, plainIntake, plainJob } from './plain-job.ts';
export { hideShort, type FedBench, type HiddenShort } from './hidden-short.ts';
export { plainBoard } from './plain-board.ts';
export { oneOfEach } from './one-of-each.ts';
export { stepLine } from './step-line.ts';

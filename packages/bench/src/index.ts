export { hideFaults, type HiddenBoard, type HidingSettings } from './hidden/hidden-board.ts';
export { hideShort, type FedBench, type HiddenShort } from './hidden/hidden-short.ts';
export { stepLine } from './hidden/step-line.ts';

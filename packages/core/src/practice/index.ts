export { hideFaults, type HiddenBoard, type HidingSettings } from './hidden-board.ts';

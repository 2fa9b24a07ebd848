export { readSheet } from './sheet-reader.ts';

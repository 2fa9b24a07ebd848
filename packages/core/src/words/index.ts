export { words, findWords, hintsFor, type Word, type WordSource } from './words.ts';

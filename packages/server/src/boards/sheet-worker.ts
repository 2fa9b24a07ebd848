import { parentPort, workerData } from 'node:worker_threads';
import { readSheet } from './sheet-reader.ts';

parentPort?.postMessage(readSheet(workerData as string));

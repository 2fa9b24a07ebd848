import { coolerOffSeconds, coolerWarnSeconds } from './limits.ts';

/** What is said while a processor runs without its cooler. */
export interface CoolerCount {
  /** off: the source is to be off now; warn: it is nearly so far. */
  word: 'count' | 'warn' | 'off';
  /** Whole seconds left. */
  left: number;
}

/** By the seconds since the press; a clock that went back counts as no time. */
export function coolerCount(seconds: number): CoolerCount {
  const left = coolerOffSeconds - Math.max(0, seconds);
  if (left <= 0) return { word: 'off', left: 0 };
  return { word: left <= coolerWarnSeconds ? 'warn' : 'count', left: Math.ceil(left) };
}

import { useSyncExternalStore } from 'react';
import { z } from 'zod';
import type { VerdictKind } from '@jiko/core/readings';
import { keep, kept } from './kept.ts';

/** What is heard while the eyes stay on the microscope; off until asked for. */
export interface Sounds {
  /** A short tone after each reading: good, not good, or not decided. */
  tone: boolean;
  /** The next point and mode read out, where the browser can speak. */
  words: boolean;
  /** From 0 to 1. */
  volume: number;
}

const key = 'jiko-sounds';
const usual: Sounds = { tone: false, words: false, volume: 0.5 };
const soundsSchema = z.object({
  tone: z.boolean().catch(usual.tone),
  words: z.boolean().catch(usual.words),
  volume: z.number().min(0).max(1).catch(usual.volume),
});
let sounds: Sounds = kept(key, soundsSchema, usual);
const listeners = new Set<() => void>();

export function setSounds(change: Partial<Sounds>): void {
  sounds = { ...sounds, ...change };
  keep(key, sounds);
  listeners.forEach((listener) => listener());
}

export const useSounds = (): Sounds =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => sounds,
  );

/** High and short for good, low and long for not good, twice for what is not decided. */
export function toneOf(kind: VerdictKind): { hertz: number; seconds: number; times: 1 | 2 } {
  switch (kind) {
    case 'good':
      return { hertz: 880, seconds: 0.09, times: 1 };
    case 'undecided':
    case 'unjudged':
      return { hertz: 520, seconds: 0.07, times: 2 };
    default:
      return { hertz: 196, seconds: 0.28, times: 1 };
  }
}

let audio: AudioContext | null = null;

export function playTone(kind: VerdictKind): void {
  if (sounds.tone) play(toneOf(kind), sounds.volume);
}

/** Heard whatever is switched off: somebody or a board is about to be hurt. */
export function playWarning(): void {
  play({ hertz: 988, seconds: 0.4, times: 4 }, Math.max(0.6, sounds.volume));
}

function play(
  { hertz, seconds, times }: { hertz: number; seconds: number; times: number },
  volume: number,
): void {
  if (typeof AudioContext === 'undefined') return;
  audio ??= new AudioContext();
  for (let time = 0; time < times; time++) {
    const from = audio.currentTime + time * seconds * 1.8;
    const source = audio.createOscillator();
    const gain = audio.createGain();
    source.frequency.value = hertz;
    // Fades, so that it does not click.
    gain.gain.setValueAtTime(0.3 * volume, from);
    gain.gain.linearRampToValueAtTime(0, from + seconds);
    source.connect(gain).connect(audio.destination);
    source.start(from);
    source.stop(from + seconds);
  }
}

const modeWords = {
  volts: 'volts',
  diode: 'diode',
  ohms: 'ohms',
  amps: 'amps',
  celsius: 'degrees',
  seconds: 'seconds',
} as const;

/** A point as it is spoken: `3 V 3 A L W` is heard better than a word nobody knows. */
export function pointWords(
  net: string,
  mode: keyof typeof modeWords,
  place: string,
  reference: string | null,
): string {
  const letters = (word: string): string =>
    /\d/.test(word) || word.length <= 3 ? word.split('').join(' ') : word;
  const spelled = (name: string): string =>
    name
      .replace(/\+/g, ' plus ')
      .split(/[_\s]+/)
      .filter(Boolean)
      .map((word) => (word.endsWith('#') ? `${letters(word.slice(0, -1))} low` : letters(word)))
      .join(', ');
  const against = reference === null ? '' : `, against ${spelled(reference)}`;
  return `${spelled(net)}${against}, ${modeWords[mode]}, at ${place}`;
}

export function say(words: string): void {
  if (!sounds.words || typeof speechSynthesis === 'undefined') return;
  speechSynthesis.cancel();
  const spoken = new SpeechSynthesisUtterance(words);
  spoken.lang = 'en';
  spoken.volume = sounds.volume;
  speechSynthesis.speak(spoken);
}

import { formatVolts } from '../units/index.ts';
import type { Seen } from './event.ts';

/** What was seen from outside, in words; what was not looked at is left out. */
export function seenTexts(seen: Seen): string[] {
  const texts: string[] = [];
  const say = (is: boolean | undefined, yes: string, no: string): void => {
    if (is !== undefined) texts.push(is ? yes : no);
  };
  if (seen.lights)
    texts.push(seen.lights.length > 0 ? `lit: ${seen.lights.join(', ')}` : 'no light');
  say(seen.fan, 'fan turns', 'no fan');
  say(seen.picture, 'picture', 'no picture');
  say(seen.restarts, 'goes off and on again', 'does not restart');
  say(seen.startsOnConnect, 'starts when connected', 'does not start by itself');
  say(seen.answers, 'answers the button', 'nothing changes after the press');
  if (seen.offAfterSeconds === undefined)
    say(seen.goesOff, 'goes off by itself', 'does not go off by itself');
  else texts.push(`off again after ${seen.offAfterSeconds} s`);
  if (seen.shownVolts !== undefined) texts.push(`${formatVolts(seen.shownVolts)} at the plug`);
  if (seen.reached) texts.push(`came as far as ${seen.reached}`);
  if (seen.beeps) texts.push(seen.beeps);
  return texts;
}

/** Beeps or blinks as written down: words for silence are none. */
export function saysSomething(beeps: string | undefined): boolean | null {
  const text = beeps?.trim().toLowerCase() ?? '';
  if (text === '') return null;
  return !/^(no|none|nothing|silent|silence|0|-)\b/.test(text);
}

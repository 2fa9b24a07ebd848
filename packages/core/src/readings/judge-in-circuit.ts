import { leadOhms } from './meter-limits.ts';
import type { InCircuit } from './in-circuit.ts';
import { verdict, type Verdict } from './verdict.ts';

/** A hand-held meter: common practice, no source. */
const meterPart = 0.015;
/** A resistor of 5 % or better that is good lies within; one that is wrong outside. */
const goodPart = 0.15;
const wrongPart = 0.1;

/** Ohms the resistor itself may have, by what was read across it in circuit. */
export function ohmsBehind(read: number, { besideLow, besideHigh }: InCircuit): [number, number] {
  const least = Math.max(1e-3, read * (1 - meterPart) - leadOhms.most);
  const most = read * (1 + meterPart) + 0.1;
  const alone = (shown: number, beside: number): number => {
    const left = 1 / shown - (Number.isFinite(beside) ? 1 / beside : 0);
    return left > 0 ? 1 / left : Infinity;
  };
  return [alone(least, besideHigh), alone(most, besideLow)];
}

/**
 * Parallel ways only ever lower a reading: what reads higher than it should convicts the resistor; what
 * reads lower may be something beside it.
 */
export function judgeInCircuit(read: number, part: InCircuit): Verdict {
  const [least, most] = ohmsBehind(read, part);
  const figures = { part: part.part, read, in: part };
  if (least > part.ohms * (1 + wrongPart))
    return least > part.ohms * 10 || least === Infinity
      ? verdict('open', { is: 'in-circuit-open', ...figures })
      : verdict('high', { is: 'in-circuit-high', ...figures });
  if (most < part.ohms * (1 - wrongPart))
    return verdict('low', { is: 'in-circuit-low', ...figures });
  if (least >= part.ohms * (1 - goodPart) && most <= part.ohms * (1 + goodPart))
    return verdict('good', { is: 'in-circuit-good', ...figures });
  return verdict('undecided', { is: 'in-circuit-hidden', ...figures });
}

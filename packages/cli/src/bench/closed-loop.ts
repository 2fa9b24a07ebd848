import type { GoalId } from '@jiko/core/board';
import { noSigns, type Diagnoser, type Diagnosis, type Evidence } from '@jiko/core/diagnosis';
import { faultName, type Fault } from '@jiko/core/faults';
import { plainReading, type HiddenBoard } from '@jiko/core/practice';
import type { Phase, Reading, ReadingValue } from '@jiko/core/readings';

/** One hidden fault, followed from the complaint to an answer. */
export interface Run {
  fault: Fault;
  name: string;
  probes: number;
  seconds: number;
  /** Probability of the suspect it ended at; its title. */
  sure: number;
  answer: string;
  end: 'sure' | 'none of these' | 'nothing more to ask' | 'too long';
  /** The true fault is among the leading suspect's. */
  right: boolean;
  /** What was read, in order. */
  trail: string[];
}

export const sureEnough = 0.95;
const mostProbes = 25;

/** Follows what is proposed on a hidden board until a group stands above 95 %. */
export function follow(
  diagnoser: Diagnoser,
  hidden: HiddenBoard,
  listed: Fault,
  goal: GoalId | null,
): Run {
  const readings: { id: string; reading: Reading }[] = [];
  let phase: Phase = 'standby';
  let side = 'top';
  let seconds = 0;
  const trail: string[] = [];
  const evidence = (): Evidence => ({
    readings,
    signs: {
      ...noSigns,
      draw: (['standby', 'trying'] as const).map((one) => ({ phase: one, ...hidden.draw(one) })),
    },
    findings: [],
    cleared: [],
    goal,
  });
  let end: Run['end'] = 'too long';
  let diagnosis: Diagnosis = diagnoser.diagnose(evidence(), { phase, side });
  for (;;) {
    if ((diagnosis.suspects[0]?.probability ?? 0) > sureEnough) end = 'sure';
    else if (diagnosis.none > sureEnough) end = 'none of these';
    else if (!diagnosis.next[0]) end = 'nothing more to ask';
    else if (readings.length < mostProbes) {
      const next = diagnosis.next[0];
      const value = hidden.read(next.net, next.mode, next.phase);
      seconds += next.seconds;
      phase = next.phase;
      side = next.place.side || side;
      trail.push(`${next.net} ${next.mode} ${next.phase} ${valueText(value)}`);
      readings.push({
        id: String(readings.length),
        reading: plainReading(next.net, next.mode, next.phase, value),
      });
      diagnosis = diagnoser.diagnose(evidence(), { phase, side });
      continue;
    }
    break;
  }
  const [first] = diagnosis.suspects;
  return {
    fault: listed,
    name: faultName(listed),
    probes: readings.length,
    seconds,
    sure: first?.probability ?? 0,
    answer: first?.title ?? '',
    end,
    right: first !== undefined && first.faults.some(({ fault }) => isSameFault(fault, listed)),
    trail,
  };
}

/** The same part and way of failing, whatever its severity. */
export function isSameFault(a: Fault, b: Fault): boolean {
  const bare = (fault: Fault): string =>
    JSON.stringify({ ...fault, ohms: undefined, factor: undefined });
  return bare(a) === bare(b);
}

const valueText = (value: ReadingValue): string =>
  value.kind === 'number'
    ? String(Number(value.value.toPrecision(4)))
    : value.kind === 'swinging'
      ? `${value.low}~${value.high}`
      : 'OL';

import type { NextStep } from '@jiko/core/diagnosis';

/** What the page says is to be done now, in a line: `read NET mode phase`, `test SUSPECT: what is to be done`. */
export function stepLine(step: NextStep): string {
  switch (step.kind) {
    case 'in-order':
      return `read ${step.probe.net} ${step.probe.mode} ${step.probe.phase}`;
    case 'telling': {
      const { net, reference, mode, phase } = step.proposal;
      return `read ${net}${reference === null ? '' : `>${reference}`} ${mode} ${phase}`;
    }
    case 'test':
      return `test ${step.suspect.title}: ${step.suspect.separate.text}`;
    case 'check':
      return `check ${step.check.thing}: ${step.check.title}`;
    default:
      return step.kind;
  }
}

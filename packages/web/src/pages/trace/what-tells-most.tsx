import { Button } from 'antd';
import type { BenchAction, Diagnosis, Proposal } from '@jiko/core/diagnosis';
import { formatChance } from '@jiko/core/units';
import { outcomeText } from './proposal-text.ts';

/** What can be done on the bench to tell apart what readings do not. */
export function Actions({
  actions,
  onDone,
}: {
  actions: readonly BenchAction[];
  onDone: (action: BenchAction) => void;
}) {
  return (
    <div className="best-probes" aria-label="To do and read again" role="group">
      <div className="quiet">Or do this and read again</div>
      <ul>
        {actions.map((one) => (
          <li key={`${one.kind} ${one.what}`}>
            <details>
              <summary>
                {one.text}
                <span className="quiet">
                  {' '}
                  {one.gainBits.toFixed(1)} bit · {Math.round(one.seconds / 60)} min
                </span>
              </summary>
              <ul>
                {one.outcomes.map(({ text, probability }) => (
                  <li key={text}>
                    {text} <span className="quiet">{formatChance(probability)}</span>
                  </li>
                ))}
              </ul>
              <div className="caution" role="note">
                <strong>Caution. </strong>
                {one.caution}
              </div>
              <Button size="small" onClick={() => onDone(one)}>
                {one.kind === 'feed' ? 'Write down what the supply showed' : 'I did it'}
              </Button>
            </details>
          </li>
        ))}
      </ul>
    </div>
  );
}

const modeName: Record<Proposal['mode'], string> = {
  volts: 'volts',
  ohms: 'ohms',
  diode: 'diode-mode',
};

/** The readings that would tell most, each a click away. */
export function BestProbes({
  proposals,
  diagnosis,
  onPick,
}: {
  proposals: readonly Proposal[];
  diagnosis: Diagnosis;
  onPick: (proposal: Proposal) => void;
}) {
  return (
    <div className="best-probes">
      <div className="quiet">Readings that would tell most</div>
      <ul>
        {proposals.map((one) => (
          <li key={`${one.net} ${one.reference} ${one.mode} ${one.phase}`}>
            <button
              type="button"
              title={one.outcomes
                .slice(0, 4)
                .map((outcome) => outcomeText(one, outcome, diagnosis.classTitles))
                .join('\n')}
              onClick={() => onPick(one)}
            >
              <span className="mono">{one.net}</span>
              {one.across ? ` across ${one.across}` : ''} {modeName[one.mode]}, {one.phase}
              <span className="quiet">
                {' '}
                {one.gainBits.toFixed(1)} bit · {one.seconds} s
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

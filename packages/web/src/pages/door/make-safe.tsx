import { safetySteps, type SafetyStep } from '@jiko/core/prepare';
import { Answers } from '../../widgets/answers.tsx';
import type { DoorPart } from './door-part.ts';

/** Shown before the board is opened and before any cold check; remembered with the job. */
export function MakeSafe({ job, healthy, onRecord }: DoorPart) {
  const all = safetySteps(healthy.board, job);
  const list = (kind: SafetyStep['kind']) => (
    <ul className="checks">
      {all
        .filter((one) => one.kind === kind)
        .map((one) => (
          <Row key={one.item} step={one} onRecord={onRecord} />
        ))}
    </ul>
  );
  const open = all.filter((one) => one.kind === 'step' && one.state === 'open').length;
  return (
    <section className="card is-caution" aria-label="Make safe">
      <header>
        <h2>Make safe</h2>
        <span className="quiet">
          {open === 0
            ? 'every step is noted'
            : `${open} ${open === 1 ? 'step' : 'steps'} not noted`}
        </span>
      </header>
      {list('step')}
      <h3>Look out for</h3>
      {list('caution')}
      <p className="quiet">
        Your local rules and licensed practice stand above this list. It knows only what you note.
      </p>
    </section>
  );
}

const states = [
  { value: 'done', label: 'done' },
  { value: 'none-here', label: 'none here' },
] as const;

function Row({ step, onRecord }: { step: SafetyStep; onRecord: DoorPart['onRecord'] }) {
  const { item, title, why, state, pressing } = step;
  return (
    <li className={state === 'open' ? '' : 'is-done'}>
      <div>
        <strong>
          {title}
          {pressing && state === 'open' && <span className="tone-warn"> (this job)</span>}
        </strong>
        <div className="quiet">{why}</div>
      </div>
      <Answers<'done' | 'none-here'>
        label={title}
        value={state === 'open' ? null : state}
        options={states}
        onAnswer={(next) => onRecord({ type: 'safety', item, state: next })}
        onTakeBack={() => onRecord({ type: 'safety', item, state: 'open' })}
      />
    </li>
  );
}

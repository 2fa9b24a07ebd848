import type { NetId } from '@jiko/core/board';
import type { Answer, BackStep, LowNet, Question, StageQuestions } from '@jiko/core/taking-apart';
import { formatOhms, formatVolts } from '@jiko/core/units';

const answers: Record<Answer, { word: string; tone: string; shape: string }> = {
  yes: { word: 'yes', tone: 'good', shape: 'M3 10.5 7.5 15 17 4.5' },
  no: { word: 'no', tone: 'bad', shape: 'M4 4 16 16M16 4 4 16' },
  open: { word: 'not decided', tone: 'warn', shape: 'M10 3a7 7 0 1 0 0 14zM10 3a7 7 0 0 1 0 14' },
  unread: { word: 'not read', tone: 'quiet', shape: 'M10 6.500a3.500 3.500 0 1 0 .01 0' },
  none: { word: 'not asked', tone: 'quiet', shape: 'M6 10h8' },
};

/** Feed, supply, enable, output: what was read of each, and what follows. */
export function QuestionsPanel({
  asked,
  here,
  onAsk,
  onHunt,
}: {
  asked: StageQuestions;
  here: string | null;
  onAsk: (net: NetId, kind: Question['kind']) => void;
  onHunt: () => void;
}) {
  return (
    <ol className="questions" aria-label="The four questions">
      {asked.questions.map((one) => {
        const { word, tone, shape } = answers[one.answer];
        return (
          <li key={one.kind} className={`tone-edge-${tone}`} data-answer={one.answer}>
            <div className="ask">
              <strong>{one.asks}</strong>
              <span className={`mark tone-${tone}`}>
                <svg viewBox="0 0 20 20" aria-hidden="true">
                  <path
                    d={shape}
                    fill="none"
                    stroke="currentColor"
                    strokeWidth="2.4"
                    strokeLinecap="round"
                  />
                </svg>
                {word}
              </span>
            </div>
            {one.nets.map((net) => (
              <button
                key={net.net}
                type="button"
                className={here === net.net ? 'is-here' : ''}
                onClick={() => onAsk(net.net, one.kind)}
              >
                <span className="mono">{net.net}</span>
                <span className="quiet">{net.text}</span>
              </button>
            ))}
            {one.follows && one.answer !== 'unread' && (
              <div className="follows">
                {one.follows}{' '}
                {one.kind === 'output' && one.answer === 'no' && (
                  <button type="button" className="strike" onClick={onHunt}>
                    Hunt the short
                  </button>
                )}
              </div>
            )}
          </li>
        );
      })}
    </ol>
  );
}

/** The way back from what is missing to what it lacks, as far as it was read. */
export function WayBack({
  steps,
  here,
  onGo,
}: {
  steps: readonly BackStep[];
  here: NetId;
  onGo: (net: NetId) => void;
}) {
  if (steps.length < 2) return null;
  return (
    <nav className="way" aria-label="The way back">
      <span className="quiet">Way back </span>
      {steps.map((step, index) => (
        <span key={step.net}>
          {index > 0 && (
            <span className="quiet">
              {' '}
              ← {step.role} of {step.via}{' '}
            </span>
          )}
          <button
            type="button"
            className={step.net === here ? 'is-here' : ''}
            onClick={() => onGo(step.net)}
          >
            <span className="mono">{step.net}</span> <span className="quiet">{step.read}</span>
          </button>
        </span>
      ))}
    </nav>
  );
}

/** What would explain the volts of a divider or a gate, one part at a time. */
export function LowNetPanel({ low, onCheck }: { low: LowNet; onCheck: (ref: string) => void }) {
  return (
    <section className="card" aria-label="What explains it">
      <h2>
        {formatVolts(low.read)} at {low.net}, {formatVolts(Number(low.expected.toPrecision(3)))} by
        its resistors
      </h2>
      <p className="quiet">
        {low.legs.map((one) => `${one.ref} to ${one.to}`).join(', ')}; the meter’s own{' '}
        {formatOhms(low.meterOhms)} are in the sum. Any one of these alone would do it:
      </p>
      <ul className="explains">
        {low.explains.map((one) => (
          <li key={one.text}>
            <strong>{one.text}</strong>
            <div className="quiet">
              {one.test}{' '}
              {one.ref && (
                <button type="button" className="strike" onClick={() => onCheck(one.ref!)}>
                  Check {one.ref}
                </button>
              )}
            </div>
          </li>
        ))}
        {low.explains.length === 0 && <li>Its resistors explain what was read.</li>}
      </ul>
    </section>
  );
}

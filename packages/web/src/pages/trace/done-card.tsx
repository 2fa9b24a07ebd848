import { Button } from 'antd';
import { useRef, type KeyboardEvent } from 'react';
import { Link, useParams } from 'react-router';
import { withoutStandIns, type Board } from '@jiko/core/board';
import { orderToTest, type NextStep, type WhyTest } from '@jiko/core/diagnosis';
import type { EventInput, TriedThing } from '@jiko/core/record';
import { Answers } from '../../widgets/answers.tsx';
import { CheckCard } from './check-card.tsx';
import { useFocusFor } from './focus.ts';
import { commandOf, type Command } from './keys.ts';

const whyText: Record<WhyTest, string> = {
  'nothing-parts': 'No reading parts the suspects any more: this test does',
  leads: 'It leads, and the readings that are left would hardly change that: test it now',
  went: 'It is off the board, and the short went with it',
  broken: 'Two pins of one net read differently: measure between them',
  measured: 'It reads wrong from end to end: nothing else is to be read before it',
  shorted: 'Shorted by what was read: find it before any source is connected',
};

/** No reading is asked for: the test that parts the suspects, or what comes after. */
export function Done({
  board,
  step,
  goal,
  isChecked,
  isWeighing,
  onPick,
  onDone,
  onRecord,
  onTakeBack,
  onCommand,
}: {
  board: Board;
  step: NextStep;
  /** What the board is to do, to be read after "Whether it". */
  goal: string;
  /** Somebody has seen that it does, since the board was last changed. */
  isChecked: boolean;
  isWeighing: boolean;
  onPick: () => void;
  /** The test was done on these parts: it is to be written down. */
  onDone: (parts: string[]) => void;
  onRecord: (body: EventInput) => void;
  /** What was answered of something tried is taken back. */
  onTakeBack: (thing: TriedThing) => void;
  onCommand: (command: Command) => void;
}) {
  const { id = '' } = useParams();
  const plain = (text: string): string => withoutStandIns(board, text);
  const button = useRef<HTMLButtonElement>(null);
  // The keys of the line work here too, as on an empty one.
  useFocusFor(button, step.kind);
  const keys = (event: KeyboardEvent): void => {
    const command = commandOf(event, '');
    if (!command || command === 'record') return;
    event.preventDefault();
    onCommand(command);
  };
  return (
    <div className="probe is-done">
      {step.kind === 'test' ? (
        <>
          <p className="order">{plain(orderToTest(step) ?? 'Test this now.')}</p>
          <div className="why">{whyText[step.because]}</div>
          <h1>{plain(step.suspect.title)}</h1>
          <p>{plain(step.suspect.separate.text)}</p>
          {step.suspect.separate.caution && (
            <p className="caution-line" role="note">
              <strong>Caution. </strong>
              {step.suspect.separate.caution}
            </p>
          )}
          {step.rail && (
            <p>
              <Link to={`/jobs/${id}/stage?net=${encodeURIComponent(step.rail)}&show=short`}>
                Look for the short on {step.rail} step by step
              </Link>
            </p>
          )}
          <p>
            <Button
              onClick={() =>
                onDone(
                  step.suspect.faults
                    .slice(0, 1)
                    .flatMap(({ fault }) => ('part' in fault ? [fault.part] : [])),
                )
              }
            >
              I did it: write it down
            </Button>
          </p>
        </>
      ) : step.kind === 'check' ? (
        <CheckCard
          check={step.check}
          onAnswer={(result) => onRecord({ type: 'tried', thing: step.check.thing, result })}
          onTakeBack={() => onTakeBack(step.check.thing)}
        />
      ) : step.kind === 'reached' ? (
        <>
          <p className="order">
            {isChecked ? 'Verify the rest, then write it up.' : `See whether it ${goal} now.`}
          </p>
          <h1>The nets of the goal read right</h1>
          <Answers<'passed' | 'failed'>
            label="Does it now?"
            value={isChecked ? 'passed' : null}
            options={[
              { value: 'passed', label: `it ${goal}` },
              { value: 'failed', label: 'it does not' },
            ]}
            onAnswer={(result) => onRecord({ type: 'verify', item: 'goal', result, text: '' })}
          />
          <p className="quiet">
            If it does: <Link to={`/jobs/${id}/repair`}>verify the rest</Link>, then write it up. If
            not, what lies past the rails is tried next.
          </p>
        </>
      ) : (
        <>
          <h1>{isWeighing ? 'Weighing what was read' : 'Nothing more to read from here'}</h1>
          <p>
            {isWeighing
              ? 'What to do next stands here in a moment.'
              : 'The missing stage stands on the right. Check the suspect before heating it, write down what was done, then read the same points again.'}
          </p>
        </>
      )}
      <Button ref={button} onClick={onPick} onKeyDown={keys}>
        Choose a point yourself
      </Button>
    </div>
  );
}

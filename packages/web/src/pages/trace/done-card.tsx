import { Button } from 'antd';
import { useRef, type KeyboardEvent } from 'react';
import { Link, useParams } from 'react-router';
import { withoutStandIns, type Board } from '@jiko/core/board';
import { orderToTest, type NextStep, type WhyTest } from '@jiko/core/diagnosis';
import { useFocusFor } from './focus.ts';
import { commandOf, type Command } from './keys.ts';

const whyText: Record<WhyTest, string> = {
  'nothing-parts': 'No reading parts the suspects any more: this test does',
  leads: 'It leads, and the readings that are left would hardly change that: test it now',
  went: 'It is off the board, and the short went with it',
  broken: 'Two pins of one net read differently: measure between them',
  measured: 'It reads wrong from end to end: nothing else is to be read before it',
  shorted: 'Shorted by what was read: find it before any source is connected',
  dark: 'Every net of the picture is there, and no picture was seen',
};

/** No reading is asked for: the test that parts the suspects, or what comes after. */
export function Done({
  board,
  step,
  isWeighing,
  onPick,
  onDone,
  onCommand,
}: {
  board: Board;
  step: NextStep;
  isWeighing: boolean;
  onPick: () => void;
  /** The test was done on these parts: it is to be written down. */
  onDone: (parts: string[]) => void;
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
      ) : step.kind === 'reached' ? (
        <>
          <h1>Nothing left to read for this goal</h1>
          <p>The goal was read as reached. Verify, then write it up.</p>
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

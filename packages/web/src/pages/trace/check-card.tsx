import { Link, useParams } from 'react-router';
import type { CheckAfterRails } from '@jiko/core/diagnosis';
import { Answers } from '../../widgets/answers.tsx';

type Answer = NonNullable<CheckAfterRails['answer']>;

/** Something to try while all rails are good: what, why, how long, and what each answer means. */
export function CheckCard({
  check,
  onAnswer,
  onTakeBack,
}: {
  check: CheckAfterRails;
  onAnswer: (answer: Answer) => void;
  onTakeBack: () => void;
}) {
  const { id = '' } = useParams();
  const { thing, title, order, why, at, minutes, caution, answer } = check;
  const isFound = answer === 'helped';
  const isOfFlash = thing === 'flash' || thing === 'firmware';
  return (
    <>
      <h1 className="order">{isFound ? 'Mend what was found, then look again.' : order}</h1>
      <p className="why">{isFound ? `${title}: ${check.helpedWord}. ${check.helped}` : why}</p>
      {!isFound && (
        <p className="quiet">
          {at !== null && <>On this board: {at}. </>}
          About {minutes} min.
        </p>
      )}
      {caution && (
        <p className="caution-line" role="note">
          <strong>Caution. </strong>
          {caution}
        </p>
      )}
      <Answers<Answer>
        label={title}
        value={answer}
        options={[
          { value: 'helped', label: check.helpedWord },
          { value: 'no-change', label: check.noChangeWord },
          { value: 'cannot', label: 'cannot be done' },
        ]}
        onAnswer={onAnswer}
        onTakeBack={onTakeBack}
      />
      {!isFound && (
        <dl className="meanings">
          <dt>{check.helpedWord}</dt>
          <dd>{check.helped}</dd>
          <dt>{check.noChangeWord}</dt>
          <dd>{check.noChange}</dd>
        </dl>
      )}
      {(isOfFlash || isFound) && (
        <p>
          <Link to={`/jobs/${id}/repair`}>
            {isOfFlash
              ? 'Keep the contents with the job, under Repair'
              : 'Write down what was done'}
          </Link>
        </p>
      )}
    </>
  );
}

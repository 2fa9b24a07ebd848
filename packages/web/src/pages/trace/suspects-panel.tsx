import { Button, Progress, Segmented } from 'antd';
import { useState } from 'react';
import { sheetLine, withoutStandIns, type Board } from '@jiko/core/board';
import {
  conclusionOf,
  leastTellingBits,
  whyTheyDiffer,
  type BenchAction,
  type Diagnosis,
  type Proposal,
  type Suspect,
  type Voice,
  actionsNow,
  readingsNow,
} from '@jiko/core/diagnosis';
import { type Trace } from '@jiko/core/trace';
import { formatChance, formatQuantity } from '@jiko/core/units';
import { Link } from 'react-router';
import type { Making } from '../../data/dictionaries.ts';
import { ConclusionCard } from './conclusion-card.tsx';
import { useFiguresShown } from './figures-shown.ts';
import type { School } from './school.ts';
import { outcomeText } from './proposal-text.ts';
import './suspects.css';

/** Which faults explain all that was read, with why, and the readings that would tell most. */
export function SuspectsPanel({
  board,
  making,
  note,
  also,
  diagnosis,
  isWeighing,
  before,
  trace,
  school,
  onSchool,
  onPick,
  onDone,
}: {
  board: Board;
  making: Making;
  note: string | null;
  /** Plays of a bench that some readings were taken on. */
  also: Making;
  diagnosis: Diagnosis | null;
  /** What stands here is of before the last entry. */
  isWeighing: boolean;
  /** What stood by the version of the sheet before, or as the bench stood before. */
  before: Diagnosis | null;
  trace: Trace;
  school: School;
  onSchool: (school: School) => void;
  onPick: (proposal: Proposal) => void;
  /** It was done on the bench: it is written down, and what it asks to read comes next. */
  onDone: (action: BenchAction) => void;
}) {
  const [open, setOpen] = useState<string | null>(null);
  const readings = diagnosis ? readingsNow(trace, diagnosis) : [];
  const actions = diagnosis ? actionsNow(board, trace, diagnosis) : [];
  const conclusion = diagnosis && conclusionOf(board, trace, diagnosis);
  const [figures, showFigures] = useFiguresShown('suspects');
  const differ = diagnosis && whyTheyDiffer(board, trace, diagnosis);
  return (
    <div
      className="suspects"
      aria-label="Suspects"
      data-state={
        isWeighing || (before && !diagnosis)
          ? 'weighing'
          : making.state !== 'ready' || also.state === 'working' || !diagnosis
            ? 'playing'
            : 'weighed'
      }
    >
      <div className="suspects-head">
        <h3>Suspects</h3>
        <Segmented<School>
          size="small"
          aria-label="Which probe comes next"
          value={school}
          onChange={onSchool}
          options={[
            { value: 'walk', label: 'In order' },
            { value: 'shortest', label: 'Shortest' },
            { value: 'looks', label: 'Looks' },
          ]}
        />
      </div>
      {note && <div className="quiet">{note}</div>}
      {making.state === 'working' && (
        <div className="quiet">
          Playing every fault of this board once
          <Progress
            aria-label="Faults played"
            size="small"
            percent={making.total > 0 ? Math.floor((making.done / making.total) * 100) : 0}
          />
        </div>
      )}
      {also.state === 'working' && (
        <div className="quiet">
          The same as the board stood for other readings
          <Progress
            aria-label="Faults played"
            size="small"
            percent={also.total > 0 ? Math.floor((also.done / also.total) * 100) : 0}
          />
        </div>
      )}
      {making.state === 'failed' && <div role="alert">No suspects: {making.because}</div>}
      {!diagnosis && before && <Before diagnosis={before} />}
      {diagnosis && isWeighing && (
        <div className="quiet is-weighing" role="status">
          The last entry is still being weighed: what stands here is from before it.
        </div>
      )}
      {diagnosis && (
        <>
          {conclusion ? (
            <ConclusionCard board={board} conclusion={conclusion} isOld={isWeighing} />
          ) : (
            !trace.isRead && (
              <p className="quiet">Nothing stands out yet: each reading narrows it down.</p>
            )
          )}
          {differ && <div className="quiet differ">{differ}</div>}
          {diagnosis.sheet[0] && diagnosis.sheet[0].probability > leastDoubtShown && (
            <SheetMistake board={board} doubt={diagnosis.sheet[0]} />
          )}
          <details
            className="figures"
            open={figures}
            onToggle={({ currentTarget }) => showFigures(currentTarget.open)}
          >
            <summary>All suspects, with figures</summary>
            <Regions board={board} trace={trace} diagnosis={diagnosis} />
            <ol className={isWeighing ? 'is-old' : ''}>
              {diagnosis.suspects.slice(0, 6).map((one, place) => (
                <li key={one.title}>
                  <button
                    type="button"
                    className="suspect"
                    aria-expanded={open === one.title}
                    onClick={() => setOpen(open === one.title ? null : one.title)}
                  >
                    <span className="suspect-bar" style={{ width: `${one.probability * 100}%` }} />
                    <span className="suspect-title">{withoutStandIns(board, one.title)}</span>
                    <span className="mono">{formatChance(one.probability)}</span>
                  </button>
                  {(open === one.title ||
                    (place === 0 && open === null && one.probability > 0.5)) && (
                    <Reasons board={board} suspect={one} trace={trace} />
                  )}
                </li>
              ))}
            </ol>
            <div className="quiet suspects-rest">
              none of these {formatChance(diagnosis.none)} · nothing wrong{' '}
              {formatChance(diagnosis.healthy)}
              {diagnosis.unplayed > 0.005 &&
                ` · not played yet ${formatChance(diagnosis.unplayed)}`}
            </div>
            {diagnosis.none > leastNoneShown && <Elsewhere diagnosis={diagnosis} />}
            {(readings[0]?.gainBits ?? 0) > leastTellingBits && (
              <BestProbes
                proposals={readings.filter((one) => one.gainBits > leastTellingBits).slice(0, 3)}
                diagnosis={diagnosis}
                onPick={onPick}
              />
            )}
            {actions.length > 0 && <Actions actions={actions.slice(0, 2)} onDone={onDone} />}
          </details>
          <LeftOut unused={diagnosis.unused.filter((one) => !one.counts)} as="left out" />
          <LeftOut
            unused={diagnosis.unused.filter((one) => one.counts)}
            as="counted as if nothing had moved"
          />
        </>
      )}
    </div>
  );
}

/** Readings that are not weighed as they were taken, and why. */
function LeftOut({ unused, as }: { unused: Diagnosis['unused']; as: string }) {
  if (unused.length === 0) return null;
  return (
    <div className="quiet">
      {unused.length} reading{unused.length > 1 ? 's' : ''} {as}:{' '}
      {[...new Set(unused.map((one) => one.why))].join('; ')}.
    </div>
  );
}

/** Until something is known by the sheet as it is now: names to go on with, nothing to be asked of. */
function Before({ diagnosis }: { diagnosis: Diagnosis }) {
  return (
    <>
      <div className="quiet is-weighing" role="status">
        As they stood before the sheet or the bench changed; the new ones are being worked out.
      </div>
      <ol>
        {diagnosis.suspects.slice(0, 6).map((one) => (
          <li key={one.title} className="suspect-before">
            <span>{one.title}</span>
            <span className="mono">{formatChance(one.probability)}</span>
          </li>
        ))}
      </ol>
    </>
  );
}

/** From here on it is said what "none of these" would mean. */
const leastNoneShown = 0.2;

/** From here on a mistake in the sheet is named. */
const leastDoubtShown = 0.05;

/** What no part is to blame for: the sheet states other volts than the board has. */
function SheetMistake({ board, doubt }: { board: Board; doubt: Diagnosis['sheet'][number] }) {
  const { net, path, says, reads, probability } = doubt;
  const line = sheetLine(board, path);
  return (
    <div className="sheet-doubt">
      <div>
        <strong>The sheet may be wrong here</strong>{' '}
        <span className="mono">{formatChance(probability)}</span>
      </div>
      {net} reads {formatQuantity(reads, 'volts')}, which is a usual voltage. The sheet says{' '}
      {formatQuantity(Number(says.toPrecision(3)), 'volts')} ({path[1]}
      {line === null ? '' : `, line ${line}`}). Read {net} on a board that works, or look what is
      fitted; then <Link to={`/boards/${board.id}/edit`}>correct the sheet</Link>.
    </div>
  );
}

/** A fault of no kind in the list: where it would sit, and how to go on. */
function Elsewhere({ diagnosis }: { diagnosis: Diagnosis }) {
  const nets = diagnosis.elsewhere.slice(0, 3).map((one) => one.net);
  return (
    <div className="quiet elsewhere">
      {nets.length > 0
        ? `A fault of another kind would sit at ${nets.join(' or ')}: read both ends of what leads there, look at its joints under the microscope, and hold its ohms against a good board.`
        : 'Nothing in the list fits: read the points in the order of waking again, from the input on.'}
    </div>
  );
}

/** Where it stops, before any part is named. */
function Regions({
  board,
  trace,
  diagnosis,
}: {
  board: Board;
  trace: Trace;
  diagnosis: Diagnosis;
}) {
  // Beside a rail that was read as missing nobody believes that every stage comes.
  const [first, second] = diagnosis.regions.filter(
    (one) => one.stage !== null || !trace.firstMissing,
  );
  if (!first || first.probability < 0.25) return null;
  const title = (id: string | null): string =>
    board.stages.find((one) => one.id === id)?.title ?? 'every stage still comes';
  return (
    <div className="regions">
      {first.stage !== null && <span className="quiet">stops at </span>}
      <strong>{title(first.stage)}</strong> {formatChance(first.probability)}
      {second && second.probability > 0.1 && (
        <span className="quiet">
          {' '}
          or {title(second.stage)} {formatChance(second.probability)}
        </span>
      )}
    </div>
  );
}

function Reasons({ board, suspect, trace }: { board: Board; suspect: Suspect; trace: Trace }) {
  const stage = board.stages.find((one) => one.id === suspect.firstMissing);
  const names = suspect.faults.slice(0, 5).map((one) => withoutStandIns(board, one.name));
  const more = suspect.faults.length - names.length;
  const missing = suspect.missingNets.slice(0, 4);
  const walked = trace.firstMissing;
  return (
    <div className="reasons">
      {(suspect.faults.length > 1 || suspect.faults[0]?.name !== suspect.title) && (
        <div>
          {names.join(', ')}
          {more > 0 ? ` and ${more} more` : ''}
        </div>
      )}
      <div>
        {stage ? (
          <>
            With it, <strong>{stage.title}</strong> is the first stage that does not come
            {missing.length > 0 && (
              <>
                : <span className="mono">{missing.join(', ')}</span>
                {suspect.missingNets.length > missing.length
                  ? ` and ${suspect.missingNets.length - missing.length} more stay down`
                  : missing.length === 1
                    ? ' stays down'
                    : ' stay down'}
              </>
            )}
            .
          </>
        ) : (
          'With it every stage still comes.'
        )}
      </div>
      {walked?.certain && stage && walked.stage !== stage.id && (
        <div>
          The walk stops at {walked.title}; this suspect would show first at {stage.title}: read the
          stages between before you heat anything.
        </div>
      )}
      <Voices title="for it" voices={suspect.speaksFor} />
      <Voices title="against it" voices={suspect.speaksAgainst} />
      <div>
        <span className="quiet">
          {suspect.depth === 'part' ? 'Check before heat: ' : 'Told apart by: '}
        </span>
        {withoutStandIns(board, suspect.separate.text)}
        {suspect.separate.caution && (
          <div className="caution" role="note">
            <strong>Caution. </strong>
            {suspect.separate.caution}
          </div>
        )}
      </div>
    </div>
  );
}

function Voices({ title, voices }: { title: string; voices: readonly Voice[] }) {
  if (voices.length === 0) return null;
  return (
    <div>
      <span className="quiet">{title}: </span>
      <span className="mono">
        {[...new Set(voices.map((one) => one.text))].slice(0, 4).join(', ')}
      </span>
    </div>
  );
}

/** What can be done on the bench to tell apart what readings do not. */
function Actions({
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

function BestProbes({
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

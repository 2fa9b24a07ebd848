import { Progress, Segmented } from 'antd';
import { useState } from 'react';
import { sheetLine, withoutStandIns, type Board } from '@jiko/core/board';
import {
  conclusionOf,
  leastTellingBits,
  whyTheyDiffer,
  type BenchAction,
  type Diagnosis,
  type Proposal,
  actionsNow,
  readingsNow,
} from '@jiko/core/diagnosis';
import { type Trace } from '@jiko/core/trace';
import { formatChance, formatQuantity } from '@jiko/core/units';
import { Link } from 'react-router';
import type { Making } from '../../data/dictionaries.ts';
import { ConclusionCard } from './conclusion-card.tsx';
import { useFiguresShown } from './figures-shown.ts';
import { Reasons } from './suspect-reasons.tsx';
import { Actions, BestProbes } from './what-tells-most.tsx';
import type { School } from './school.ts';
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
            !trace.goalNetsGood && (
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

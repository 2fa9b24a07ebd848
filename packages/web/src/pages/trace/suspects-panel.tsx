import { Progress, Segmented } from 'antd';
import { useState } from 'react';
import type { Board, NetId } from '@jiko/core/board';
import type { Diagnosis, Proposal, Suspect, Trace, Voice } from '@jiko/core/diagnosis';
import type { Mode } from '@jiko/core/readings';
import type { Making } from '../../data/dictionaries.ts';
import type { School } from './school.ts';
import { outcomeText, percent } from './proposal-text.ts';

/** Less than this is not worth a trip of the probe. */
const leastShownBits = 0.05;

/** Which faults explain all that was read, with why, and the readings that would tell most. */
export function SuspectsPanel({
  board,
  making,
  diagnosis,
  trace,
  school,
  onSchool,
  onPick,
}: {
  board: Board;
  making: Making;
  diagnosis: Diagnosis | null;
  trace: Trace;
  school: School;
  onSchool: (school: School) => void;
  onPick: (net: NetId, mode: Mode) => void;
}) {
  const [open, setOpen] = useState<string | null>(null);
  return (
    <div className="suspects" aria-label="Suspects">
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
      {making.state === 'working' && (
        <div className="quiet">
          Playing every fault of this board once
          <Progress
            size="small"
            percent={making.total > 0 ? Math.floor((making.done / making.total) * 100) : 0}
          />
        </div>
      )}
      {making.state === 'failed' && <div role="alert">No suspects: {making.because}</div>}
      {diagnosis && (
        <>
          <ol>
            {diagnosis.suspects.slice(0, 6).map((one, place) => (
              <li key={one.title}>
                <button
                  type="button"
                  className="suspect"
                  aria-expanded={open === one.title}
                  onClick={() => setOpen(open === one.title ? null : one.title)}
                >
                  <span className="suspect-bar" style={{ width: `${one.probability * 100}%` }} />
                  <span className="suspect-title">{one.title}</span>
                  <span className="mono">{percent(one.probability)}</span>
                </button>
                {(open === one.title ||
                  (place === 0 && open === null && one.probability > 0.5)) && (
                  <Reasons board={board} suspect={one} trace={trace} />
                )}
              </li>
            ))}
          </ol>
          <div className="quiet suspects-rest">
            none of these {percent(diagnosis.none)} · nothing wrong {percent(diagnosis.healthy)}
          </div>
          {(diagnosis.next[0]?.gainBits ?? 0) > leastShownBits && (
            <BestProbes
              proposals={diagnosis.next.filter((one) => one.gainBits > leastShownBits).slice(0, 3)}
              diagnosis={diagnosis}
              onPick={onPick}
            />
          )}
          {diagnosis.unused.length > 0 && (
            <div className="quiet">
              {diagnosis.unused.length} reading{diagnosis.unused.length > 1 ? 's' : ''} left out:{' '}
              {[...new Set(diagnosis.unused.map((one) => one.why))].join('; ')}.
            </div>
          )}
        </>
      )}
    </div>
  );
}

function Reasons({ board, suspect, trace }: { board: Board; suspect: Suspect; trace: Trace }) {
  const stage = board.stages.find((one) => one.id === suspect.firstMissing);
  const names = suspect.faults.slice(0, 5).map((one) => one.name);
  const more = suspect.faults.length - names.length;
  const missing = suspect.missingNets.slice(0, 4);
  const walked = trace.firstMissing;
  return (
    <div className="reasons">
      {(suspect.faults.length > 1 || names[0] !== suspect.title) && (
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
        {suspect.separate.text}
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
  onPick: (net: NetId, mode: Mode) => void;
}) {
  return (
    <div className="best-probes">
      <div className="quiet">Readings that would tell most</div>
      <ul>
        {proposals.map((one) => (
          <li key={`${one.net} ${one.mode} ${one.phase}`}>
            <button
              type="button"
              title={one.outcomes
                .slice(0, 4)
                .map((outcome) => outcomeText(one, outcome, diagnosis.classTitles))
                .join('\n')}
              onClick={() => onPick(one.net, one.mode)}
            >
              <span className="mono">{one.net}</span> {modeName[one.mode]}, {one.phase}
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

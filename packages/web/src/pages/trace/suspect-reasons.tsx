import { withoutStandIns, type Board } from '@jiko/core/board';
import type { Suspect, Voice } from '@jiko/core/diagnosis';
import type { Trace } from '@jiko/core/trace';

/** Why a suspect stands where it stands, what speaks against it, and its own test. */
export function Reasons({
  board,
  suspect,
  trace,
}: {
  board: Board;
  suspect: Suspect;
  trace: Trace;
}) {
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

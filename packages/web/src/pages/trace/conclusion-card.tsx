import { withoutStandIns, type Board } from '@jiko/core/board';
import type { Conclusion } from '@jiko/core/diagnosis';

/** What all that was read comes to: what it is, why, and what could be read now to deny it. */
export function ConclusionCard({
  board,
  conclusion,
  isOld,
}: {
  board: Board;
  conclusion: Conclusion;
  /** The last entry is not weighed yet. */
  isOld: boolean;
}) {
  const { what, word, probability, because, refutedBy } = conclusion;
  return (
    <div
      className={`conclusion${isOld ? ' is-old' : ''}`}
      role="group"
      aria-label="What it comes to"
    >
      <p className="conclusion-what">{withoutStandIns(board, what)}</p>
      <div className="likely">
        <span className="likely-bar" aria-hidden="true">
          <span style={{ width: `${Math.round(probability * 100)}%` }} />
        </span>
        <span>{word}</span>
      </div>
      <p>
        <span className="quiet">Because</span>{' '}
        {because ?? 'it fails most often; nothing that was read points to it yet'}.
      </p>
      {refutedBy && (
        <p>
          <span className="quiet">This would refute it:</span> {refutedBy}.
        </p>
      )}
    </div>
  );
}

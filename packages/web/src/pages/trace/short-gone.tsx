import { useMemo } from 'react';
import type { Board } from '@jiko/core/board';
import type { Job } from '@jiko/core/record';
import { shortGoneWith } from '@jiko/core/short-hunt';

/** A part was taken off and the short went with it: the cause is found, and what comes next. */
export function ShortGone({ board, job }: { board: Board; job: Job }) {
  const gone = useMemo(() => shortGoneWith(board, job), [board, job]);
  if (!gone) return null;
  return (
    <p className="short-gone" role="status">
      <strong>The short went with {gone.part}: it is the part.</strong> {gone.text} Fit a good one
      and read {gone.net} again, source off.
    </p>
  );
}

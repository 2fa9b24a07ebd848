import type { Trace } from '@jiko/core/trace';

/** A part was taken off and the short went with it: the cause is found, and what comes next. */
export function ShortGone({ gone }: { gone: Trace['shortGone'] }) {
  if (!gone) return null;
  return (
    <p className="short-gone" role="status">
      <strong>{gone.said}</strong> {gone.text} {gone.remedy}
    </p>
  );
}

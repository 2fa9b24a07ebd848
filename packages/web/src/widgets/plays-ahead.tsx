import { useDiagnosisAhead, type JobSeen } from '../data/job-diagnosis.ts';

/**
 * Plays and weighs the faults of a job's board while its view needs none of it, so that they are there
 * in the next. It shows nothing: a component of its own, so that the view is not drawn anew meanwhile.
 */
export function PlaysAhead({ view }: { view: JobSeen }) {
  useDiagnosisAhead(view);
  return null;
}

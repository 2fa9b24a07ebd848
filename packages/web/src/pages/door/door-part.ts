import type { HealthyBoard } from '@jiko/core/expectations';
import type { EventInput, Job } from '@jiko/core/record';

/** What each part of the door is given. */
export interface DoorPart {
  id: string;
  job: Job;
  healthy: HealthyBoard;
  onRecord: (...bodies: EventInput[]) => void;
}

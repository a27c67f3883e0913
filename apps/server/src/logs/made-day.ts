import type { GeneratedDayResult } from '../jobs/generate-task.js';

/** A day as a run has made it, not yet written. */
export interface MadeDay extends GeneratedDayResult {
  readonly stationId: string;
  /** Of the log it was worked out from; null where there was none. */
  readonly revision: number | null;
}

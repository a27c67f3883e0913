/** An instant that what plays is to reach. */
export interface LogMark {
  /** UTC epoch milliseconds. */
  readonly atMs: number;
  /** Hard: begins at that second, whatever plays. Soft: not before it. */
  readonly hard: boolean;
  /** What ends here is to end within so many milliseconds of it. */
  readonly exactMs?: number;
  /** May be reached late, as a soft moment may. */
  readonly late?: true;
}

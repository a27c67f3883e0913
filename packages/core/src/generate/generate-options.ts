import type { DailyLog } from '../log/daily-log.js';

/** What a day is made with besides its station. */
export interface GenerateOptions {
  readonly date: string;
  readonly seed: number;
  /** The log there is; its locked entries and notes are kept. */
  readonly previous: DailyLog | null;
  /**
   * `open`: only slots that stand open are filled, everything else stays. `hours`: only the hours named are regenerated.
   * `categories`: only slots of the categories named are chosen again, in the hours named where there are any.
   */
  readonly only: 'all' | 'open' | 'hours' | 'categories';
  /** Places of hours in the day, for `hours` and `categories`. */
  readonly hours?: readonly number[];
  /** Ids of categories, for `categories`. */
  readonly categories?: readonly string[];
  /** UTC instant of the run, epoch milliseconds: what has begun by then in the log there is stays as it is. */
  readonly nowMs?: number;
  /** Whether what a person chose or noted may be replaced too, unless it is locked. */
  readonly replaceByHand?: boolean;
  /** What is answered to the questions of clock lines: filters by question. */
  readonly answers?: Readonly<Record<string, string>>;
  /** Written on what the run chooses: its UTC instant, epoch milliseconds. */
  readonly runMs?: number;
  /** Told how far the engine is with a pass over the day, 0 to 1; to stop, throw. */
  readonly progress?: (share: number) => void;
}

import type { Announcement } from '@fuller/contracts';
import type { ErrorCode } from '../errors.js';
import type { Asking } from '../store/asking.js';
import type { LongTask } from './long-tasks.js';

/** What a thread for long work works on. */
export interface WriterData {
  readonly dataDir: string;
  /** Of PostgreSQL; null for the file in the folder. */
  readonly database: string | null;
  readonly roots: readonly string[];
}

/**
 * Sent to the thread: what to do next, that its turn to write has come, that it is to stop and take back what it wrote,
 * or to end at once.
 */
export type ToWriter =
  | { readonly task: LongTask; readonly args: readonly unknown[]; readonly asking: Asking }
  | { readonly turn: true }
  | { readonly stop: string }
  | { readonly quit: true };

/** What the thread tells. */
export type FromWriter =
  | { readonly what: 'turn wanted' | 'turn over' }
  | { readonly what: 'progress'; readonly share: number; readonly doing: string }
  | { readonly what: 'committed'; readonly things: readonly string[] }
  | { readonly what: 'event'; readonly event: Announcement }
  | { readonly what: 'done'; readonly value: unknown }
  | {
      readonly what: 'failed';
      readonly code: ErrorCode | null;
      readonly message: string;
      readonly field?: string | undefined;
    };

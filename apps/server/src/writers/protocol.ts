import type { ServerEvent } from '@fuller/contracts';
import type { ErrorCode } from '../errors.js';
import type { LongTask } from './long-tasks.js';

/** What a thread for long work is begun with. */
export interface WorkOrder {
  readonly dataDir: string;
  readonly roots: readonly string[];
  readonly task: LongTask;
  readonly args: readonly unknown[];
}

/** Sent to the thread: its turn to write has come, it is to stop and take back what it wrote, or to end at once. */
export type ToWriter = { readonly turn: true } | { readonly stop: string } | { readonly quit: true };

/** What the thread tells. */
export type FromWriter =
  | { readonly what: 'turn wanted' | 'turn over' }
  | { readonly what: 'progress'; readonly share: number; readonly doing: string }
  | { readonly what: 'committed'; readonly things: readonly string[] }
  | { readonly what: 'event'; readonly event: ServerEvent }
  | { readonly what: 'done'; readonly value: unknown }
  | {
      readonly what: 'failed';
      readonly code: ErrorCode | null;
      readonly message: string;
      readonly field?: string | undefined;
    };

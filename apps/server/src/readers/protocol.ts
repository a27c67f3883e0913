import type { DailyLog } from '@fuller/core';
import type { ErrorCode } from '../errors.js';

/** What the reading thread is asked. */
export type Asked =
  | { readonly what: 'answer'; readonly route: string; readonly params: unknown; readonly query: unknown }
  | { readonly what: 'judge'; readonly stationId: string; readonly log: DailyLog }
  | { readonly what: 'figures'; readonly stationId: string; readonly date: string }
  | { readonly what: 'data'; readonly stationId: string; readonly date: string; readonly filters: readonly string[] };

/** Sent to the thread: a question, what a write has changed, or that it is to end. */
export type ToThread =
  | { readonly quit: true }
  | { readonly id: number; readonly asked: Asked }
  | {
      readonly things: readonly string[];
      readonly logs: readonly { readonly stationId: string; readonly date: string }[];
    };

/** What comes back; errors of ours cross the thread border as values. */
export type FromThread =
  | { readonly ready: true }
  | { readonly id: number; readonly value: unknown }
  | {
      readonly id: number;
      readonly fault: {
        readonly code: ErrorCode | null;
        readonly message: string;
        readonly field?: string | undefined;
      };
    };

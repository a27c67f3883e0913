import type { DailyLog, LogEdit } from '@fuller/core';

/** How a log change is recorded: made or unmade whole, or an edit. */
export type LogChange =
  | { readonly kind: 'made'; readonly stationId: string; readonly log: DailyLog }
  | { readonly kind: 'edit'; readonly stationId: string; readonly date: string; readonly edit: LogEdit };

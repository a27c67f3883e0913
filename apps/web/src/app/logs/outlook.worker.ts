/// <reference lib="webworker" />
import { outlookOf, StationModel, type DailyLog, type Outlook, type StationData } from '@fuller/core';

/** A log to look at, with what it is judged by. */
export interface OutlookQuestion {
  readonly data: StationData;
  readonly log: DailyLog;
  readonly rulesOff: readonly string[];
  /** What has begun by then stays, UTC epoch milliseconds. */
  readonly nowMs: number;
}

/** How far the look at a log is and what is known so far, or what has come of it. */
export type OutlookNews =
  | { readonly share: number; readonly doing: string; readonly soFar: Outlook }
  | { readonly outlook: Outlook }
  | { readonly error: string };

/** Milliseconds between two pieces of news. */
const EVERY_MS = 150;

addEventListener('message', ({ data: { data, log, rulesOff, nowMs } }: MessageEvent<OutlookQuestion>) => {
  let toldAt = 0;
  const tell = (news: OutlookNews): void => postMessage(news);
  try {
    const rules = data.rules.filter(({ id }) => !rulesOff.includes(id));
    const outlook = outlookOf(new StationModel({ ...data, rules }), log, nowMs, (share, doing, soFar) => {
      if (performance.now() - toldAt < EVERY_MS) return;
      toldAt = performance.now();
      tell({ share, doing, soFar: soFar() });
    });
    tell({ outlook });
  } catch (error) {
    tell({ error: error instanceof Error ? error.message : String(error) });
  }
});

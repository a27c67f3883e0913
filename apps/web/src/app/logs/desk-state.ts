import type { AiredPlay, LogRun } from '@fuller/contracts';
import { NO_FILTER, type DeskFilter } from './desk-filter';
import type { LogRow } from './log-model';

export interface DeskState {
  readonly date: string | null;
  /** The row that is chosen, by its id. */
  readonly activeId: string | null;
  /** What a day without a log has played. */
  readonly aired: readonly AiredPlay[];
  /** Rules that are not looked at here, and not kept in a run that is started here. */
  readonly rulesOff: readonly string[];
  /** What runs over the day were asked for, the latest first. */
  readonly runs: readonly LogRun[];
  /** The slot whose item is to change places with another. */
  readonly swapId: string | null;
  readonly filter: DeskFilter;
  /** Places of the hours whose rows are not shown. */
  readonly collapsed: readonly number[];
  /** Entries that are chosen together; none where the chosen row stands alone. */
  readonly picked: readonly string[];
  /** Where a stretch of chosen entries begins. */
  readonly anchorId: string | null;
  /** Told by the clock on the wall, UTC epoch milliseconds. */
  readonly nowMs: number;
  /** Name of the tag family of the flow line. */
  readonly flowName: string;
  /** What the right-hand side is about. */
  readonly side: DeskSide;
}

/** What the right-hand side of the desk is about: the chosen entry, or something that is done to the log. */
export type DeskSide = 'entry' | 'generate' | 'versions' | 'print' | 'add';

export const FLOW_KEPT = 'fuller.flow';

function keptFlow(): string {
  try {
    return localStorage.getItem(FLOW_KEPT) ?? 'tempo';
  } catch {
    return 'tempo';
  }
}

/** Rows without the marks of some rules; a row that has none of these stays the very same. */
export function withoutRules(rows: LogRow[], off: ReadonlySet<string>): LogRow[] {
  if (off.size === 0) return rows;
  return rows.map((row) =>
    row.kind === 'entry' && row.strains.some(({ ruleId }) => off.has(ruleId))
      ? { ...row, strains: row.strains.filter(({ ruleId }) => !off.has(ruleId)) }
      : row,
  );
}

/** The desk before a day is opened. */
export function beginning(): DeskState {
  return {
    date: null,
    activeId: null,
    aired: [],
    rulesOff: [],
    runs: [],
    swapId: null,
    filter: NO_FILTER,
    collapsed: [],
    picked: [],
    anchorId: null,
    nowMs: Date.now(),
    flowName: keptFlow(),
    side: 'entry',
  };
}

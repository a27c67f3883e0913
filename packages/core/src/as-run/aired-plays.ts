import type { StationPlay } from '../station/station-data.js';
import type { AiredRow } from './as-run.js';
import type { ReconciledRow } from './reconcile.js';

/** What a person decides of a difference: history counts what aired, or what was planned. */
export const DECISIONS = ['accepted', 'dismissed'] as const;
export type Decision = (typeof DECISIONS)[number];

/** A play that is matched to an item of the library; null where the library does not have it. */
export interface KnownRow extends AiredRow {
  readonly itemId: string | null;
}

/** Whether a row is a difference somebody is to decide on. */
export function isDifference({ is }: Pick<ReconciledRow, 'is'>): boolean {
  return is !== 'as planned' && is !== 'unknown';
}

/** What history counts of a day that was reconciled: plays of items in the order of their starts. */
export function airedPlays(
  rows: readonly ReconciledRow<KnownRow>[],
  decisionOf: (key: string) => Decision | null,
): StationPlay[] {
  return rows
    .flatMap((row): StationPlay[] => {
      const { key, planned, aired } = row;
      const takesAired = !isDifference(row) || decisionOf(key) === 'accepted';
      const plan = planned?.itemId ? [{ itemId: planned.itemId, startMs: planned.startMs }] : [];
      if (!takesAired || row.is === 'unknown') return plan;
      if (!aired) return [];
      // A planned item that aired under another name is still that item.
      const itemId = planned ? planned.itemId : aired.itemId;
      return itemId === null ? [] : [{ itemId, startMs: aired.startMs }];
    })
    .sort((a, b) => a.startMs - b.startMs);
}

import { allEntries, type BreakEntry, type DailyLog, type Spot } from '../log/daily-log.js';
import type { SpotsEdit } from '../log/log-edit.js';

/** Where a spot goes: a place among the spots of a break (at its end without one), or the tray. */
export interface SpotMove {
  readonly spotId: string;
  /** Null is the tray. */
  readonly toEntryId: string | null;
  readonly at?: number | undefined;
}

/** What moving a spot does to a log and to the tray beside it, or why it cannot be moved. */
export type MovedSpot<T extends Spot> =
  | {
      readonly ok: true;
      readonly spot: Spot;
      readonly edits: readonly SpotsEdit[];
      readonly tray: readonly T[];
    }
  | { readonly ok: false; readonly why: 'no such spot' | 'no such break' | 'aired' };

/**
 * Moves a spot from where it stands; breaks in `aired` stay as they are. One taken out of a break is put in the tray as
 * `trayed` makes it.
 */
export function moveSpot<T extends Spot>(
  log: DailyLog,
  tray: readonly T[],
  { spotId, toEntryId, at }: SpotMove,
  { aired, trayed }: { readonly aired: ReadonlySet<string>; readonly trayed: (spot: Spot) => T },
): MovedSpot<T> {
  const breaks = allEntries(log).filter((entry): entry is BreakEntry => entry.kind === 'break' && !entry.out);
  const from = breaks.find(({ spots }) => spots?.some(({ id }) => id === spotId));
  const inTray = tray.find(({ id }) => id === spotId);
  const found = from?.spots?.find(({ id }) => id === spotId) ?? inTray;
  if (!found) return { ok: false, why: 'no such spot' };
  const to = breaks.find(({ id }) => id === toEntryId);
  if (toEntryId !== null && !to) return { ok: false, why: 'no such break' };
  if ([from, to].some((one) => one && aired.has(one.id))) return { ok: false, why: 'aired' };
  const spot = bare(found);
  const lists = new Map<string, readonly Spot[]>();
  if (from)
    lists.set(
      from.id,
      (from.spots ?? []).filter(({ id }) => id !== spotId),
    );
  if (to) {
    const there = lists.get(to.id) ?? to.spots ?? [];
    lists.set(to.id, there.toSpliced(at ?? there.length, 0, spot));
  }
  const others = tray.filter(({ id }) => id !== spotId);
  return {
    ok: true,
    spot,
    edits: [...lists].map(([entryId, spots]) => ({ type: 'spots', entryId, spots })),
    tray: to ? others : inTray ? tray : [...tray, trayed(spot)],
  };
}

function bare({ id, cart, sponsor, title, product, lengthMs }: Spot): Spot {
  return { id, cart, sponsor, title, product, lengthMs };
}

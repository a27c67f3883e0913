import type { MoveSpot, TrayRow } from '@fuller/contracts';
import { allEntries, type BreakEntry, type DailyLog, type LogEdit, type Spot } from '@fuller/core';
import { FullerError, notFound } from '../errors.js';

/** What moving a spot does to a log and to the tray beside it. */
export interface MovedSpot {
  readonly edits: readonly LogEdit[];
  readonly tray: TrayRow[];
  readonly name: string;
}

/** Moves a spot from where it stands. Throws NOT_FOUND without it, INVALID where a break has aired. */
export function moveSpot(
  log: DailyLog,
  tray: readonly TrayRow[],
  { spotId, toEntryId, at }: MoveSpot,
  aired: ReadonlySet<string>,
): MovedSpot {
  const breaks = allEntries(log).filter((entry): entry is BreakEntry => entry.kind === 'break' && !entry.out);
  const from = breaks.find(({ spots }) => spots?.some(({ id }) => id === spotId));
  const inTray = tray.find(({ id }) => id === spotId);
  const spot = from?.spots?.find(({ id }) => id === spotId) ?? inTray;
  if (!spot) throw notFound('spot', spotId);
  const to = toEntryId === null ? null : breaks.find(({ id }) => id === toEntryId);
  if (to === undefined) throw notFound('break', toEntryId ?? '');
  for (const one of [from, to])
    if (one && aired.has(one.id)) throw new FullerError('INVALID', 'Its break has aired.', 'toEntryId');
  const moving = bare(spot);
  const lists = new Map<string, Spot[]>();
  if (from)
    lists.set(
      from.id,
      (from.spots ?? []).filter(({ id }) => id !== spotId),
    );
  if (to) {
    const there = lists.get(to.id) ?? [...(to.spots ?? [])];
    lists.set(to.id, there.toSpliced(at ?? there.length, 0, moving));
  }
  return {
    edits: [...lists].map(([entryId, spots]) => ({ type: 'spots', entryId, spots })),
    tray: to
      ? tray.filter(({ id }) => id !== spotId)
      : inTray
        ? [...tray]
        : [...tray, { ...moving, line: null, start: '', why: 'Taken out of its break by hand.' }],
    name: [spot.cart, spot.sponsor].filter(Boolean).join(' '),
  };
}

function bare({ id, cart, sponsor, title, product, lengthMs }: Spot): Spot {
  return { id, cart, sponsor, title, product, lengthMs };
}

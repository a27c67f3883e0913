import type { LogTiming } from '../log/air-times.js';
import { entryOfDate } from '../log/entry-of-date.js';
import { itemOf, type DailyLog } from '../log/daily-log.js';
import { lookUp } from '../values/look-up.js';
import type { PlannedRow } from './reconcile.js';

/** What a row says of an item. */
export interface PlannedItem {
  readonly kind: string;
  readonly artist: string;
  readonly title: string;
  readonly cart: string | null;
  readonly file: string | null;
  readonly durationMs: number;
}

/** What of a log was to air, spot by spot; what stays out of player files airs from elsewhere. */
export function plannedRows(
  log: DailyLog,
  { entries }: LogTiming,
  itemWith: (id: string) => PlannedItem | undefined,
): PlannedRow[] {
  return log.hours.flatMap((hour) =>
    hour.entries.flatMap((entry): PlannedRow[] => {
      if (entry.out || entry.noFile) return [];
      const { startMs } = lookUp(entries, entry.id);
      if (entry.kind === 'break') {
        let at = startMs;
        return (entry.spots ?? []).map(({ id, cart, sponsor, title, lengthMs }) => {
          const row = {
            id: entryOfDate(log.date, id),
            startMs: at,
            durationMs: lengthMs,
            kind: 'spot',
            artist: sponsor,
            title,
            cart,
          };
          at += lengthMs;
          return { ...row, file: '', itemId: null };
        });
      }
      const itemId = itemOf(entry);
      const item = itemId === null ? undefined : itemWith(itemId);
      if (!item) return [];
      const { kind, artist, title, cart, file } = item;
      const whole = ('lengthMs' in entry ? entry.lengthMs : undefined) ?? item.durationMs;
      return [
        {
          id: entryOfDate(log.date, entry.id),
          startMs: startMs + ((entry.kind === 'sweeper' ? entry.intoMs : undefined) ?? 0),
          durationMs: whole,
          kind,
          artist,
          title,
          cart: cart ?? '',
          file: file ?? '',
          itemId,
        },
      ];
    }),
  );
}

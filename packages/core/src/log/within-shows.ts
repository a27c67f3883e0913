import type { DailyLog } from './daily-log.js';
import { touchedEntries, type HandEdit, type LogEdit } from './log-edit.js';
import { placeOf } from './log-place.js';

/** What a presenter may do to a log: add, move, and write a note, such as one that asks for a swap. */
const PRESENTERS: ReadonlySet<HandEdit['type']> = new Set(['insert', 'move', 'note']);

/** Indices of the hours that an edit takes something out of, puts something into, or changes something in. */
export function hoursTouched(log: DailyLog, edit: LogEdit | HandEdit): ReadonlySet<number> {
  if (edit.type === 'batch') return new Set(edit.edits.flatMap((one) => [...hoursTouched(log, one)]));
  const hours = new Set<number>();
  for (const id of touchedEntries(edit as LogEdit)) {
    const place = placeOf(log, id);
    if (place) hours.add(place.hourIndex);
  }
  if (edit.type === 'insert') hours.add(edit.at.hourIndex);
  if (edit.type === 'move') hours.add(edit.to.hourIndex);
  return hours;
}

/** Why a presenter of some shows may not make an edit, in words; null where they may. */
export function refusalToPresenter(log: DailyLog, edit: HandEdit, showIds: ReadonlySet<string>): string | null {
  const singles = edit.type === 'batch' ? edit.edits : [edit];
  if (!singles.every(({ type }) => PRESENTERS.has(type)))
    return 'A presenter adds and moves items; ask for a swap for the rest.';
  const outside = [...hoursTouched(log, edit)].map((index) => log.hours[index]).find((hour) => !isOwn(hour, showIds));
  if (outside === undefined) return null;
  const at = `${String(outside?.localHour ?? 0).padStart(2, '0')}:00`;
  return `The hour at ${at} is not in one of your shows.`;
}

function isOwn(hour: DailyLog['hours'][number] | undefined, showIds: ReadonlySet<string>): boolean {
  return hour?.showId !== undefined && showIds.has(hour.showId);
}

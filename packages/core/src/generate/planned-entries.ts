import type { PlannedLine } from '../week/expand-day.js';
import { flagsOf } from '../clocks/line-flags.js';
import type { FillLine, MomentLine, PickLine, TeaseLine } from '../clocks/line.js';
import { hasOwnNote } from '../log/chosen-by-hand.js';
import type { EntryTarget, LogEntry, PickEntry } from '../log/daily-log.js';

/** A fill line begins with so many slots; landing adds what a longer gap takes. */
const FILL_SLOTS = 3;
/** The id of a fill slot after the first. */
export const MORE_FILL = /-f\d+$/;

/** The n-th slot of a fill line, from 1. */
export function fillSlotId(first: string, n: number): string {
  return n === 1 ? first : `${first}-f${n}`;
}

/** What is kept of a slot when its day is generated again. */
export type Keeps = (entry: LogEntry) => boolean;

/** The entries a planned line becomes: open slots, but for what is kept, and with the notes a person wrote. */
export function entriesFor(
  planned: PlannedLine,
  answers: Readonly<Record<string, string>>,
  before: ReadonlyMap<string, LogEntry>,
  keeps: Keeps,
): LogEntry[] {
  const { entryId: id, line, from, mark } = planned;
  const was = before.get(id);
  // The note of a song goes with the song.
  const note = was && hasOwnNote(was) && was.kind !== 'pick' ? { note: was.note, noteBy: was.noteBy } : { note: '' };
  const listPlace = line.listPlace ? { listPlace: line.listPlace } : {};
  const base = { id, ...note, ...(from ? { from } : {}), ...(mark ? { mark } : {}), ...flagsOf(line), ...listPlace };
  switch (line.kind) {
    case 'pick':
      return [
        keptIn({ ...base, note: line.note ?? '', ...slotOf(line, answers), ...themeOf(planned, line) }, was, keeps),
      ];
    case 'fill':
      return Array.from({ length: FILL_SLOTS }, (_, n): LogEntry => {
        const fillId = fillSlotId(id, n + 1);
        const entry: PickEntry = { ...base, id: fillId, ...slotOf(line, answers), fill: true };
        const kept = keptIn(entry, before.get(fillId), keeps);
        return kept.itemId !== null ? kept : { ...kept, ...(n > 0 ? { mark: undefined } : {}), out: true };
      }).map(withoutUndefined);
    case 'moment':
      if (line.itemId !== null) return [{ ...base, kind: 'item', itemId: line.itemId }];
      return line.categoryId === null ? [] : [keptIn({ ...base, ...slotOf(line, answers) }, was, keeps)];
    case 'item':
      return [{ ...base, kind: 'item', itemId: line.itemId, ...(line.spare ? { spare: true } : {}) }];
    case 'break':
      return [
        {
          ...base,
          kind: 'break',
          bookedAtMs: line.bookedAtMs,
          durationMs: line.durationMs,
          // What traffic has booked is no choice of a run.
          ...(was?.kind === 'break' && was.spots ? { spots: was.spots } : {}),
        },
      ];
    case 'tease':
      return [{ ...base, kind: 'tease', target: targetOf(planned, line), itemId: null, boundTo: null }];
    case 'sweeper': {
      const filters = line.filter ? { filters: [line.filter] } : {};
      return [{ ...base, kind: 'sweeper', categoryId: line.categoryId, ...filters, itemId: null, boundTo: null }];
    }
    case 'note':
      return [{ ...base, kind: 'note', text: line.text }];
    case 'next show':
    case 'set list':
      return [];
  }
}

/** The theme of a line without a value yet. */
function themeOf({ entryId }: PlannedLine, { id, theme }: PickLine): Pick<PickEntry, 'theme'> {
  if (!theme) return {};
  const { by, group } = theme;
  // Lines of one run of a clock become entries whose ids end alike.
  return { theme: { by, group, run: entryId.slice(id.length), value: null, words: '' } };
}

function targetOf({ entryId, clockStartMs, showId }: PlannedLine, { id, target }: TeaseLine): EntryTarget {
  switch (target.to) {
    case 'pick':
      return target;
    // Lines of one run of a clock become entries whose ids end alike.
    case 'line':
      return { to: 'entry', entryId: `${target.lineId}${entryId.slice(id.length)}` };
    case 'time':
      return { to: 'time', atMs: clockStartMs + target.atMs };
    case 'next show':
      return { to: 'show', showId: showId ?? '' };
  }
}

type OpenSlot = Omit<PickEntry, 'id' | 'note' | 'from' | 'mark' | 'out'>;

function slotOf(line: PickLine | FillLine | MomentLine, answers: Readonly<Record<string, string>>): OpenSlot {
  const pick = line.kind === 'pick' ? line : null;
  const answer = pick?.ask === undefined ? '' : (answers[pick.ask] ?? '');
  const filters = [line.filter ?? '', answer].filter((text) => text !== '');
  return {
    kind: 'pick',
    categoryId: line.categoryId!,
    ...(pick?.turnOrder ? { turnOrder: pick.turnOrder } : {}),
    ...(filters.length ? { filters } : {}),
    ...(pick?.rules ? { rules: pick.rules } : {}),
    ...(pick?.spare ? { spare: true } : {}),
    itemId: null,
    locked: false,
    origin: 'engine',
    open: null,
  };
}

/** A slot with the item that is kept in it, as long as it draws from where it did. */
function keptIn(entry: PickEntry, was: LogEntry | undefined, keeps: Keeps): PickEntry {
  if (was?.kind !== 'pick' || was.categoryId !== entry.categoryId || !(was.locked || keeps(was))) return entry;
  const { itemId, locked, origin, why, open, lengthMs } = was;
  const note = hasOwnNote(was) ? { note: was.note, noteBy: 'hand' as const } : {};
  return {
    ...entry,
    ...note,
    itemId,
    locked,
    origin,
    open,
    ...(why === undefined ? {} : { why }),
    ...(lengthMs === undefined ? {} : { lengthMs }),
  };
}

function withoutUndefined(entry: LogEntry): LogEntry {
  return Object.fromEntries(Object.entries(entry).filter(([, value]) => value !== undefined)) as unknown as LogEntry;
}

import type { PlannedLine } from '../clocks/expand-day.js';
import type { FillLine, MomentLine, PickLine } from '../clocks/line.js';
import type { LogEntry, PickEntry } from './daily-log.js';

/** A gap is filled with up to so many items. */
const FILL_SLOTS = 3;
/** The id of a fill slot after the first. */
export const MORE_FILL = /-f[2-9]$/;

/** The entries a planned line becomes: open slots, but for what a person has locked, and with the notes they wrote. */
export function entriesFor(
  planned: PlannedLine,
  answers: Readonly<Record<string, string>>,
  before: ReadonlyMap<string, LogEntry>,
): LogEntry[] {
  const { entryId: id, line, from, mark } = planned;
  const was = before.get(id);
  const base = { id, note: was?.note ?? '', ...(from ? { from } : {}), ...(mark ? { mark } : {}) };
  switch (line.kind) {
    case 'pick':
      return [keptIn({ ...base, note: base.note || (line.note ?? ''), ...slotOf(line, answers) }, was)];
    case 'fill':
      return Array.from({ length: FILL_SLOTS }, (_, n): LogEntry => {
        const fillId = n === 0 ? id : `${id}-f${n + 1}`;
        const entry: PickEntry = { ...base, id: fillId, ...slotOf(line, answers), fill: true };
        const kept = keptIn(entry, before.get(fillId));
        return kept.locked ? kept : { ...kept, ...(n > 0 ? { mark: undefined } : {}), out: true };
      }).map(withoutUndefined);
    case 'moment':
      if (line.itemId !== null) return [{ ...base, kind: 'item', itemId: line.itemId }];
      return line.categoryId === null ? [] : [keptIn({ ...base, ...slotOf(line, answers) }, was)];
    case 'item':
      return [{ ...base, kind: 'item', itemId: line.itemId, ...(line.spare ? { spare: true } : {}) }];
    case 'break':
      return [{ ...base, kind: 'break', bookedAtMs: line.bookedAtMs, durationMs: line.durationMs }];
    case 'note':
      return [{ ...base, kind: 'note', text: line.text }];
    case 'next show':
      return [];
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

/** A slot with the item a person has locked in it, as long as it draws from where it did. */
function keptIn(entry: PickEntry, was: LogEntry | undefined): PickEntry {
  if (was?.kind !== 'pick' || !was.locked || was.categoryId !== entry.categoryId) return entry;
  const { itemId, locked, origin, why, open } = was;
  return { ...entry, itemId, locked, origin, open, ...(why === undefined ? {} : { why }) };
}

function withoutUndefined(entry: LogEntry): LogEntry {
  return Object.fromEntries(Object.entries(entry).filter(([, value]) => value !== undefined)) as unknown as LogEntry;
}

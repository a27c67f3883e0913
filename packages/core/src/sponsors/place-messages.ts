import type { ChosenWhy, DailyLog, LogEntry } from '../log/daily-log.js';
import type { StationModel } from '../station/station-model.js';
import { dailyAsks } from './daily-asks.js';
import { MessageBoard, type KeptAsk } from './message-board.js';
import { messageSlots, messagesOf, type MessageSlot } from './message-slots.js';

/** The sponsor messages of a day. */
export interface PlacedMessages {
  readonly log: DailyLog;
  /** The slots that were decided on; no run over songs changes them. */
  readonly slots: ReadonlySet<string>;
  /** How many slots there are for messages. */
  readonly count: number;
  /** What each promise asked of the day, and how much of that stands in the log. */
  readonly kept: readonly KeptAsk[];
}

/**
 * A log with its sponsor messages: what was promised first, then the others with equal chance. Never two of one sponsor
 * in a row as long as another has messages there, rivals apart, no more of one in an hour than allowed; a slot for which
 * that cannot be had stays open. Slots in `keep` stay as they are.
 */
export function placeMessages(model: StationModel, log: DailyLog, keep: ReadonlySet<string>): PlacedMessages {
  const slots = messageSlots(model, log);
  if (slots.length === 0) {
    const kept = dailyAsks(model, log.date).map((ask) => ({ ...ask, placed: 0, slots: 0 }));
    return { log, slots: new Set(), count: 0, kept };
  }
  const stays = (entry: LogEntry): boolean =>
    keep.has(entry.id) || entry.kind === 'item' || (entry.kind === 'pick' && entry.locked);
  const kept = log.hours.flatMap(({ entries }) => entries.flatMap((entry) => (stays(entry) ? [entry.id] : [])));
  const board = new MessageBoard(model, log, slots, new Set(kept));
  board.keepPromises();
  board.fillTheRest();
  board.anneal();
  board.openWhatIsBarred();
  return {
    log: withMessages(log, chosenMessages(model, log, slots, board)),
    slots: new Set(slots.filter((_, place) => board.decides(place)).map(({ entryId }) => entryId)),
    count: slots.length,
    kept: board.keptAsks(),
  };
}

interface Plays {
  readonly count: number;
  /** UTC epoch milliseconds. */
  readonly lastMs: number;
}

interface Chosen {
  readonly itemId: string;
  readonly why: ChosenWhy;
}

/** A message of its sponsor for every slot that was decided on: the one that played least, and rested longest. */
function chosenMessages(
  model: StationModel,
  log: DailyLog,
  slots: readonly MessageSlot[],
  board: MessageBoard,
): ReadonlyMap<string, Chosen | null> {
  const past = model.playsBefore(log.hours[0]?.startMs ?? 0);
  const plays = new Map<string, Plays>();
  const playsOf = (id: string): Plays =>
    plays.get(id) ?? { count: past.get(id)?.length ?? 0, lastMs: past.get(id)?.[0] ?? -Infinity };
  const isLess = (a: Plays, b: Plays): boolean => a.count < b.count || (a.count === b.count && a.lastMs < b.lastMs);
  const chosen = new Map<string, Chosen | null>();
  slots.forEach((slot, place) => {
    const key = board.sponsorAt(place);
    const [first, ...rest] = key === null ? [] : messagesOf(slot, key);
    const itemId = board.decides(place)
      ? first && rest.reduce((one, other) => (isLess(playsOf(other), playsOf(one)) ? other : one), first)
      : slot.itemId;
    if (!itemId) {
      if (board.decides(place)) chosen.set(slot.entryId, null);
      return;
    }
    const { count, lastMs } = playsOf(itemId);
    if (board.decides(place)) chosen.set(slot.entryId, { itemId, why: whyOf(slot, lastMs, board.askAt(place)) });
    plays.set(itemId, { count: count + 1, lastMs: slot.startMs });
  });
  return chosen;
}

function whyOf({ startMs }: MessageSlot, lastMs: number, ask: KeptAsk | undefined): ChosenWhy {
  const base = { restMs: lastMs === -Infinity ? null : startMs - lastMs, ahead: 0, heldBack: [] };
  if (!ask) return base;
  return { ...base, promise: { count: ask.promise.count, per: ask.promise.per, placed: ask.placed } };
}

function withMessages(log: DailyLog, chosen: ReadonlyMap<string, Chosen | null>): DailyLog {
  const hours = log.hours.map((hour) => {
    if (!hour.entries.some(({ id }) => chosen.has(id))) return hour;
    const entries = hour.entries.map((entry): LogEntry => {
      const made = chosen.get(entry.id);
      if (entry.kind !== 'pick' || made === undefined) return entry;
      if (made) return { ...entry, ...made, origin: 'engine', open: null };
      return {
        ...entry,
        itemId: null,
        origin: 'engine',
        open: { because: 'sponsors', proof: 'budget', heldBackBy: [] },
      };
    });
    return { ...hour, entries };
  });
  return { ...log, hours };
}

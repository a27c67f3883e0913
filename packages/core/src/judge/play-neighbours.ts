import { itemOf, type DailyLog } from '../log/daily-log.js';
import { localTimeOf } from '../time/local-day.js';
import { lookUp } from '../values/look-up.js';
import { expandDay } from '../week/expand-day.js';
import type { StationModel } from '../station/station-model.js';
import type { StationPlay } from '../station/station-data.js';

/** The nearest plays on either side of an instant; null where there is none that is known. */
export interface Neighbours {
  readonly before: StationPlay | null;
  readonly after: StationPlay | null;
}

/** The nearest plays of an item, and of its artists with any item. */
export interface ItemNeighbours {
  readonly item: Neighbours;
  readonly artist: Neighbours;
}

/** Where a play stands: its date, its entry where a log of it is at hand, and the show that is on. */
export interface PlayPlace {
  readonly date: string;
  readonly entryId: string | null;
  readonly showId: string | null;
}

/** Plays by item and by artist, in the order of time. */
class PlayIndex {
  private readonly ofItem = new Map<string, StationPlay[]>();
  private readonly ofArtist = new Map<string, StationPlay[]>();

  constructor(model: StationModel, plays: readonly StationPlay[]) {
    for (const play of [...plays].sort((a, b) => a.startMs - b.startMs)) {
      add(this.ofItem, play.itemId, play);
      for (const artist of model.known.get(play.itemId)?.artistIds ?? []) add(this.ofArtist, artist, play);
    }
  }

  around(itemId: string, artists: readonly string[], atMs: number): ItemNeighbours {
    const byArtist = artists.map((artist) => nearest(this.ofArtist.get(artist) ?? [], atMs));
    return {
      item: nearest(this.ofItem.get(itemId) ?? [], atMs),
      artist: byArtist.reduce(nearer, { before: null, after: null }),
    };
  }
}

/** Logs of one day are looked at among the same plays of the days about it. */
const indexOfHistory = new WeakMap<
  readonly StationPlay[],
  { readonly nextLog: DailyLog | null; readonly index: PlayIndex }
>();

/** When what stands in a log played last and plays next: in the days before it, in the log itself, and in the next day's. */
export class PlayNeighbours {
  private readonly showsOn = new Map<string, readonly { readonly startMs: number; readonly showId?: string }[]>();
  private readonly own: PlayIndex;
  private readonly others: PlayIndex;

  constructor(
    private readonly model: StationModel,
    private readonly log: DailyLog,
  ) {
    const { history, nextLog = null } = model.data;
    this.own = new PlayIndex(model, model.plays(log));
    const kept = indexOfHistory.get(history);
    this.others =
      kept?.nextLog === nextLog
        ? kept.index
        : new PlayIndex(model, [...history, ...(nextLog ? model.plays(nextLog) : [])]);
    indexOfHistory.set(history, { nextLog, index: this.others });
  }

  /** Where a play stands. */
  placeOf({ itemId, startMs }: StationPlay): PlayPlace {
    const { data } = this.model;
    for (const log of [this.log, data.nextLog]) {
      if (!log) continue;
      const { entries } = this.model.timing(log);
      for (const hour of log.hours)
        for (const entry of hour.entries)
          if (itemOf(entry) === itemId && lookUp(entries, entry.id).startMs === startMs)
            return { date: log.date, entryId: entry.id, showId: hour.showId ?? null };
    }
    const { date } = localTimeOf(startMs, data.timeZone);
    let hours = this.showsOn.get(date);
    if (!hours) this.showsOn.set(date, (hours = expandDay(date, data.timeZone, data.plan, this.model)));
    return { date, entryId: null, showId: hours.findLast((hour) => hour.startMs <= startMs)?.showId ?? null };
  }

  /** Around an instant, UTC epoch milliseconds; a play that begins at that very instant is the one asked about. */
  around(itemId: string, atMs: number): ItemNeighbours {
    const artists = this.model.known.get(itemId)?.artistIds ?? [];
    const own = this.own.around(itemId, artists, atMs);
    const others = this.others.around(itemId, artists, atMs);
    return { item: nearer(own.item, others.item), artist: nearer(own.artist, others.artist) };
  }
}

/** Of two pairs the plays that are nearer on each side. */
function nearer(a: Neighbours, b: Neighbours): Neighbours {
  const later = !a.before || (b.before && b.before.startMs > a.before.startMs) ? b.before : a.before;
  const sooner = !a.after || (b.after && b.after.startMs < a.after.startMs) ? b.after : a.after;
  return { before: later, after: sooner };
}

function add(index: Map<string, StationPlay[]>, key: string, play: StationPlay): void {
  const plays = index.get(key);
  if (plays) plays.push(play);
  else index.set(key, [play]);
}

function nearest(plays: readonly StationPlay[], atMs: number): Neighbours {
  return {
    before: plays.findLast(({ startMs }) => startMs < atMs) ?? null,
    after: plays.find(({ startMs }) => startMs > atMs) ?? null,
  };
}

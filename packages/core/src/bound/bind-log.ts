import { mayAirInHour } from '../library/availability.js';
import { withBinding } from '../log/binding.js';
import {
  isBound,
  itemOf,
  type Binding,
  type DailyLog,
  type LogEntry,
  type LogHour,
  type SweeperEntry,
  type TeaseEntry,
} from '../log/daily-log.js';
import type { LogTiming } from '../log/air-times.js';
import type { StationModel } from '../station/station-model.js';
import { weekdayOf } from '../time/local-day.js';
import { elementAt, lookUp } from '../values/look-up.js';
import { targetOfTease, type AiringEntries } from './tease-targets.js';

/** What is bound depends on times, and times on what is bound; this often they are brought together. */
const MOST_ROUNDS = 4;

/**
 * The log with what its teases and sweepers play worked out from what else stands in it; the very same log where
 * nothing changes. What still holds stays; of several that fit, the one that rested longest is taken. Entries in `kept`
 * stay as they are, as those that have aired.
 */
export function bindLog(model: StationModel, log: DailyLog, kept: ReadonlySet<string> = new Set()): DailyLog {
  if (!log.hours.some(({ entries }) => entries.some(isBound))) return log;
  let current = log;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const next = new Binder(model, current, model.timing(current)).bound(kept);
    if (next === current) break;
    current = next;
  }
  return current;
}

/** Works out the bindings of a log at the times at which its entries air. */
class Binder {
  private readonly airing: AiringEntries;
  private readonly hourOf: readonly LogHour[];
  /** When each item last began before the entry in hand, UTC epoch milliseconds. */
  private readonly last = new Map<string, number>();
  private readonly past: ReadonlyMap<string, readonly number[]>;
  /** By place, whether the entry begins only after a hard start that follows it, so that it never airs. */
  private readonly cutOff: readonly boolean[];

  constructor(
    private readonly model: StationModel,
    private readonly log: DailyLog,
    timing: LogTiming,
  ) {
    const entries = log.hours.flatMap((hour) => hour.entries);
    this.hourOf = log.hours.flatMap((hour) => hour.entries.map(() => hour));
    this.airing = { entries, times: timing.entries, kindOf: (id) => model.known.get(id)?.kind ?? 'song' };
    this.past = model.playsBefore(log.hours[0]?.startMs ?? 0);
    this.cutOff = this.whatIsCutOff();
  }

  bound(kept: ReadonlySet<string>): DailyLog {
    const { entries, times } = this.airing;
    const changed = entries.map((entry, place) => {
      const now = isBound(entry) && !kept.has(entry.id) && !entry.out ? this.rebound(entry, place) : entry;
      const itemId = itemOf(now);
      if (itemId !== null) this.last.set(itemId, lookUp(times, now.id).startMs);
      return now;
    });
    if (changed.every((entry, place) => entry === entries[place])) return this.log;
    let at = 0;
    const hours = this.log.hours.map((hour) => {
      const own = changed.slice(at, (at += hour.entries.length));
      return own.every((entry, n) => entry === hour.entries[n]) ? hour : { ...hour, entries: own };
    });
    return { ...this.log, hours };
  }

  private rebound(entry: TeaseEntry | SweeperEntry, place: number): LogEntry {
    return withBinding(entry, entry.kind === 'tease' ? this.tease(entry, place) : this.sweeper(entry, place));
  }

  private tease(entry: TeaseEntry, place: number): Binding {
    const { target } = entry;
    if (target.to === 'show') {
      const announcement = this.model.data.plan.shows.find(({ id }) => id === target.showId)?.announcementId ?? null;
      const own = this.model.teases.of({ what: 'show', id: target.showId });
      const audio = own.length > 0 || announcement === null ? own : [announcement];
      return this.chosen(entry, place, audio, null, 'no audio');
    }
    const found = targetOfTease(this.airing, place, entry);
    const itemId = found && !this.cutOff[this.airing.entries.indexOf(found)] ? itemOf(found) : null;
    if (!found || itemId === null) return { itemId: null, boundTo: null, missing: 'no target' };
    const song = this.model.known.get(itemId);
    return this.chosen(entry, place, song ? this.model.teases.ofItem(song) : [], found.id, 'no audio');
  }

  private sweeper(entry: SweeperEntry, place: number): Binding {
    const host = this.airing.entries
      .slice(place + 1)
      .find((one) => !one.out && one.kind !== 'note' && !(isBound(one) && one.itemId === null));
    const itemId = host && (host.kind === 'pick' || host.kind === 'item') ? itemOf(host) : null;
    const song = itemId === null ? undefined : this.model.known.get(itemId);
    // What starts hard begins at its second, and nothing with it.
    if (!host || !song || (song.kind ?? 'song') !== 'song' || host.mark?.hard)
      return { itemId: null, boundTo: null, missing: 'no song' };
    const introMs = song.introMs ?? 0;
    if (introMs === 0) return { itemId: null, boundTo: host.id, missing: 'no intro' };
    const audio = this.model
      .itemsFor(entry.categoryId, entry.filters ?? [])
      .filter((id) => this.model.durationOf(id) <= introMs);
    const binding = this.chosen(entry, place, audio, host.id, 'intro too short');
    if (binding.itemId === null) return binding;
    return { ...binding, intoMs: introMs - this.model.durationOf(binding.itemId) };
  }

  /** One of some items that may air there: what stands as long as it is among them, or the one that rested longest. */
  private chosen(
    entry: TeaseEntry | SweeperEntry,
    place: number,
    audio: readonly string[],
    boundTo: string | null,
    otherwise: NonNullable<Binding['missing']>,
  ): Binding {
    const hour = elementAt(this.hourOf, place);
    const mayAir = audio.filter((id) => this.mayAir(id, hour));
    if (entry.itemId !== null && mayAir.includes(entry.itemId)) return { itemId: entry.itemId, boundTo };
    const [first, ...others] = mayAir;
    if (first === undefined) return { itemId: null, boundTo, missing: otherwise };
    const itemId = others.reduce((best, one) => (this.lastPlay(one) < this.lastPlay(best) ? one : best), first);
    return { itemId, boundTo };
  }

  private mayAir(itemId: string, { localHour }: LogHour): boolean {
    const item = this.model.known.get(itemId);
    return (
      item !== undefined &&
      this.model.unavailabilityOn(item, '', this.log.date) === null &&
      mayAirInHour(item, weekdayOf(this.log.date), localHour)
    );
  }

  private lastPlay(itemId: string): number {
    return this.last.get(itemId) ?? this.past.get(itemId)?.[0] ?? -Infinity;
  }

  private whatIsCutOff(): boolean[] {
    const { entries, times } = this.airing;
    let next = Infinity;
    return entries
      .map((entry) => lookUp(times, entry.id).startMs)
      .reverse()
      .map((startMs) => {
        const isCut = startMs > next;
        next = Math.min(next, startMs);
        return isCut;
      })
      .reverse();
  }
}

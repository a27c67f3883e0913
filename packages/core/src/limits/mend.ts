import { elementAt, lastOf, lookUp } from '../values/look-up.js';
import { excesses, keyedEntries, listsUnder, type KeyedEntry, type LimitEntry } from './check-limits.js';
import { LIMIT_PERIOD_SECONDS, statutoryLimits, type Limit, type LimitOptions } from './limits.js';

/** So many songs are looked at in all searches, shared by the groups, before a greedy set is taken. */
const MOST_LOOKED_AT = 600_000;
/** Any group is given so many. */
const LEAST_LOOKED_AT = 12_000;
/** Sets of more songs than this are not searched for: there are too many. */
const MOST_SEARCHED = 40;
/** Songs that move up can come into one period with others that were this much further away, seconds. */
const REACH_SECONDS = LIMIT_PERIOD_SECONDS + 3600;

/** What happens to the songs after one that is taken out: they move up, or another song takes its place. */
export type MendKind = 'remove' | 'replace';

/** Songs to take out. */
export interface Mend {
  /** Ascending. */
  readonly positions: readonly number[];
  /** Whether no smaller set would do. */
  readonly smallest: boolean;
}

/**
 * The fewest songs without which a list keeps the limits, as far as songs that stay allow it: an exact hitting set over the stretches that exceed them,
 * found by deepening search with a bound from stretches that share no song (Reiter, "A theory of diagnosis from first
 * principles", 1987); where that takes too long, a greedy one.
 */
export function mendOf(
  entries: readonly LimitEntry[],
  options: LimitOptions,
  kind: MendKind,
  oneAct: readonly string[] = [],
): Mend {
  const songs = keyedEntries(entries, options, oneAct);
  const limits = statutoryLimits(options.strict);
  const whole = new LimitState(songs, limits, kind);
  let smallest = true;
  // What moves up may meet what lies beyond its group; then the rest is mended in turn.
  for (let left = whole.conflicts(); left.length > 0; left = whole.conflicts()) {
    const groups = groupsOf(left, (at) => whole.startOf(at));
    const each = Math.max(LEAST_LOOKED_AT, Math.floor(MOST_LOOKED_AT / groups.length));
    for (const group of groups) {
      const [from, to] = whole.around(group);
      const part = new LimitState(whole.songsBetween(from, to), limits, kind);
      const found = part.mend(each);
      smallest &&= found.smallest;
      for (const position of found.positions) whole.takeOut(position);
    }
  }
  return { positions: [...whole.taken].sort((a, b) => a - b), smallest };
}

/** Songs, as ascending places in the list, of which at least `excess` must go. */
interface Conflict {
  readonly places: readonly number[];
  readonly excess: number;
}

/** A list of songs, some of them taken out. */
class LimitState {
  private readonly out: Uint8Array;
  /** Seconds that later songs move up when a song goes. */
  private readonly gaps: readonly number[];
  private lookedAt = 0;
  private mostLookedAt = MOST_LOOKED_AT;

  constructor(
    private readonly songs: readonly KeyedEntry[],
    private readonly limits: readonly Limit[],
    private readonly kind: MendKind,
  ) {
    this.out = new Uint8Array(songs.length);
    this.gaps = songs.map(({ entry }, at) =>
      kind === 'remove' && at + 1 < songs.length ? elementAt(songs, at + 1).entry.start - entry.start : 0,
    );
  }

  startOf(at: number): number {
    return elementAt(this.songs, at).entry.start;
  }

  get taken(): number[] {
    return this.songs.flatMap(({ entry }, at) => (this.out[at] ? [entry.position] : []));
  }

  takeOut(position: number): void {
    this.out[this.songs.findIndex(({ entry }) => entry.position === position)] = 1;
  }

  /** The songs that are left between two starts, with the starts they have by now. */
  songsBetween(from: number, to: number): KeyedEntry[] {
    let moved = 0;
    return this.songs.flatMap((song, at) => {
      if (this.out[at]) {
        moved += elementAt(this.gaps, at);
        // Another song stands in its place, and parts a row.
        return this.kind === 'replace' && song.entry.start >= from && song.entry.start <= to ? [neutral(song)] : [];
      }
      const { start } = song.entry;
      return start < from || start > to ? [] : [{ ...song, entry: { ...song.entry, start: start - moved } }];
    });
  }

  around(group: readonly Conflict[]): readonly [number, number] {
    const first = group.reduce((least, one) => Math.min(least, firstOf(one)), Infinity);
    const last = group.reduce((most, one) => Math.max(most, lastOf(one.places)), 0);
    return [this.startOf(first) - REACH_SECONDS, this.startOf(last) + REACH_SECONDS];
  }

  /** What exceeds the limits as the list stands. */
  conflicts(): Conflict[] {
    const left: number[] = [];
    const songs: KeyedEntry[] = [];
    let moved = 0;
    this.songs.forEach((song, at) => {
      if (this.out[at] && this.kind === 'remove') {
        moved += elementAt(this.gaps, at);
        return;
      }
      left.push(at);
      if (this.out[at]) songs.push(neutral(song));
      else songs.push(moved === 0 ? song : { ...song, entry: { ...song.entry, start: song.entry.start - moved } });
    });
    return this.limits.flatMap((limit) =>
      [...listsUnder(limit, songs).values()].flatMap((lists) =>
        lists.flatMap((list) => {
          if (list.length <= limit.allowed) return [];
          const starts = list.map((at) => elementAt(songs, at).entry.start);
          const recordings = list.map((at) => elementAt(songs, at).recording);
          return excesses(starts, recordings, limit.allowed).flatMap(({ from, to, count }): Conflict[] => {
            const stretch = list.slice(from, to + 1);
            const free = stretch.filter((at) => elementAt(songs, at).entry.fixed !== true);
            const places = free.map((at) => elementAt(left, at));
            return places.length === 0 ? [] : [{ places, excess: Math.min(count - limit.allowed, places.length) }];
          });
        }),
      ),
    );
  }

  /** The smallest set to take out, or a greedy one when the search takes too long. */
  mend(mostLookedAt: number): Mend {
    this.mostLookedAt = mostLookedAt;
    const least = lowerBound(this.conflicts());
    for (let most = least; most <= MOST_SEARCHED && this.lookedAt < this.mostLookedAt; most++) {
      const found = this.search(most, new Set());
      if (found) return { positions: this.positions(found), smallest: true };
    }
    const greedy = this.greedy();
    return { positions: this.positions(greedy), smallest: greedy.length === least };
  }

  private positions(places: readonly number[]): number[] {
    return places.map((at) => elementAt(this.songs, at).entry.position);
  }

  /** At most so many places that mend the list and none of those that must stay; null when there are none. */
  private search(most: number, staying: ReadonlySet<number>): number[] | null {
    if (this.lookedAt >= this.mostLookedAt) return null;
    this.lookedAt += this.songs.length;
    const conflicts = this.conflicts();
    if (conflicts.length === 0) return [];
    if (lowerBound(conflicts) > most) return null;
    const smallest = conflicts.reduce((a, b) => (b.places.length < a.places.length ? b : a));
    const stays = new Set(staying);
    // The later song first: what has already played stays where there is a choice.
    for (const at of [...smallest.places].reverse()) {
      if (stays.has(at)) continue;
      this.out[at] = 1;
      const more = this.search(most - 1, stays);
      this.out[at] = 0;
      if (more) return [at, ...more];
      stays.add(at);
    }
    return null;
  }

  /** Takes out the song in the most conflicts, one of each that shares none with those before, until there are none. */
  private greedy(): number[] {
    const taken: number[] = [];
    for (let conflicts = this.conflicts(); conflicts.length > 0; conflicts = this.conflicts()) {
      const shares = new Map<number, number>();
      for (const { places } of conflicts) for (const at of places) shares.set(at, (shares.get(at) ?? 0) + 1);
      const touched = new Set<number>();
      for (const { places } of conflicts) {
        if (places.some((at) => touched.has(at))) continue;
        for (const at of places) touched.add(at);
        const worst = places.reduce((a, b) => (lookUp(shares, b) >= lookUp(shares, a) ? b : a));
        this.out[worst] = 1;
        taken.push(worst);
      }
    }
    for (const at of taken) this.out[at] = 0;
    return taken;
  }
}

function firstOf({ places }: Conflict): number {
  return elementAt(places, 0);
}

/** A song in whose place another one is to stand, which shares nothing with any. */
function neutral({ entry }: KeyedEntry): KeyedEntry {
  return { entry, recording: '', subjects: { album: [], artist: [], set: [] } };
}

/** How many must go at least: the sum over conflicts that share no song. */
function lowerBound(conflicts: readonly Conflict[]): number {
  const used = new Set<number>();
  let bound = 0;
  for (const { places, excess } of [...conflicts].sort((a, b) => a.places.length - b.places.length)) {
    if (places.some((at) => used.has(at))) continue;
    for (const at of places) used.add(at);
    bound += excess;
  }
  return bound;
}

/** Conflicts near enough to each other that mending one may touch the other. */
function groupsOf(conflicts: readonly Conflict[], startOf: (at: number) => number): Conflict[][] {
  const sorted = [...conflicts].sort((a, b) => firstOf(a) - firstOf(b));
  const groups: Conflict[][] = [];
  let end = -Infinity;
  for (const one of sorted) {
    if (startOf(firstOf(one)) > end + REACH_SECONDS) groups.push([one]);
    else lastOf(groups).push(one);
    end = Math.max(end, startOf(lastOf(one.places)));
  }
  return groups;
}

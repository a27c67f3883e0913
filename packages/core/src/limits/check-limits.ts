import { mainCredit, parseCredits } from '../library/credits.js';
import { nameKey } from '../text/fold.js';
import { elementAt, lastOf } from '../values/look-up.js';
import { LIMIT_PERIOD_SECONDS, statutoryLimits, type Limit, type LimitOptions, type LimitSubject } from './limits.js';

/** A song as it aired or will. */
export interface LimitEntry {
  /** Counted from 1, in the file or log. */
  readonly position: number;
  /** Seconds on any one time line. */
  readonly start: number;
  readonly title: string;
  readonly artist: string;
  readonly album: string;
  /** The artist of the album where it is known, else the main artist of the song. */
  readonly albumArtist?: string | undefined;
  /** A boxed set or compilation sold as one. */
  readonly set?: string | undefined;
  /** Tells recordings apart; title and artist where it is not known. */
  readonly recording?: string | undefined;
  /** Cannot be taken out by a mend. */
  readonly fixed?: boolean | undefined;
}

/** Where a limit is exceeded: the songs of one subject in overlapping periods, or in a row. */
export interface LimitViolation {
  readonly limit: Limit['id'];
  /** The album, artist or set. */
  readonly value: string;
  /** Ascending. */
  readonly positions: readonly number[];
  /** Start of the first of these songs, seconds. */
  readonly start: number;
  /** The most different recordings in any one period, or in the row. */
  readonly count: number;
  readonly allowed: number;
}

/** A song with its subjects as keys. */
export interface KeyedEntry {
  readonly entry: LimitEntry;
  readonly recording: string;
  readonly subjects: Readonly<Record<LimitSubject, readonly string[]>>;
}

/** The songs in the order of their starts, with the keys under which spellings of their subjects meet. */
export function keyedEntries(
  entries: readonly LimitEntry[],
  { exemptAlbums }: Pick<LimitOptions, 'exemptAlbums'>,
  oneAct: readonly string[] = [],
): KeyedEntry[] {
  const exempt = new Set(exemptAlbums.map(nameKey));
  const artistsOf = new Map<string, readonly string[]>();
  const mainArtists = (credit: string): readonly string[] => {
    const known = artistsOf.get(credit);
    if (known) return known;
    const found = parseCredits(credit, oneAct)
      .filter(({ role }) => role === 'main')
      .map(({ name }) => nameKey(name));
    artistsOf.set(credit, found);
    return found;
  };
  const keyed = entries.map((entry): KeyedEntry => {
    const artists = mainArtists(entry.artist);
    const album = nameKey(entry.album);
    const albumArtist = entry.albumArtist ? nameKey(entry.albumArtist) : (artists[0] ?? '');
    const set = nameKey(entry.set ?? '');
    const title = nameKey(entry.title);
    return {
      entry,
      recording: entry.recording ?? (title ? `${title}|${artists.join('|')}` : `#${entry.position}`),
      subjects: {
        album: album === '' || exempt.has(album) ? [] : [`${album}|${albumArtist}`],
        artist: artists,
        set: set === '' ? [] : [set],
      },
    };
  });
  return keyed.sort((a, b) => a.entry.start - b.entry.start || a.entry.position - b.entry.position);
}

/** Songs that exceed a limit together: those from `from` to `to` of a list, with how many recordings they are. */
export interface Excess {
  readonly from: number;
  readonly to: number;
  readonly count: number;
}

/**
 * The longest stretches of a list of songs of one subject with more different recordings inside one period than are
 * allowed. A period holds the plays that start less than its length after its first.
 */
export function excesses(starts: readonly number[], recordings: readonly string[], allowed: number): Excess[] {
  const found: Excess[] = [];
  const plays = new Map<string, number>();
  let from = 0;
  for (let to = 0; to < starts.length; to++) {
    const entering = elementAt(recordings, to);
    plays.set(entering, (plays.get(entering) ?? 0) + 1);
    for (; elementAt(starts, from) <= elementAt(starts, to) - LIMIT_PERIOD_SECONDS; from++) {
      const leaving = elementAt(recordings, from);
      const left = plays.get(leaving)! - 1;
      if (left === 0) plays.delete(leaving);
      else plays.set(leaving, left);
    }
    if (plays.size <= allowed) continue;
    const last = found.at(-1);
    // A stretch that starts where the last one did only goes on.
    if (last?.from === from) found[found.length - 1] = { from, to, count: plays.size };
    else found.push({ from, to, count: plays.size });
  }
  return found;
}

/** The lists a limit looks at: of each subject every play, or each row of them. */
export function listsUnder(limit: Limit, songs: readonly KeyedEntry[]): ReadonlyMap<string, readonly number[][]> {
  const lists = new Map<string, number[][]>();
  songs.forEach(({ subjects }, at) => {
    for (const value of subjects[limit.subject]) {
      const ofValue = lists.get(value);
      if (!ofValue) lists.set(value, [[at]]);
      else if (limit.inARow && lastOf(lastOf(ofValue)) !== at - 1) ofValue.push([at]);
      else lastOf(ofValue).push(at);
    }
  });
  return lists;
}

/** Every place where some songs exceed the statutory limits, in the order in which they begin. */
export function checkLimits(
  entries: readonly LimitEntry[],
  options: LimitOptions,
  oneAct: readonly string[] = [],
): LimitViolation[] {
  const songs = keyedEntries(entries, options, oneAct);
  const found = statutoryLimits(options.strict).flatMap((limit) => violationsOf(limit, songs));
  const seen = new Set<string>();
  return found
    .filter(({ limit, value, positions }) => {
      const key = [limit, value, ...positions].join('|');
      return seen.has(key) ? false : seen.add(key);
    })
    .sort((a, b) => a.start - b.start || elementAt(a.positions, 0) - elementAt(b.positions, 0));
}

function violationsOf(limit: Limit, songs: readonly KeyedEntry[]): LimitViolation[] {
  return [...listsUnder(limit, songs)].flatMap(([value, lists]) =>
    lists.flatMap((list) => {
      const plays = list.map((at) => elementAt(songs, at));
      const stretches = excesses(
        plays.map(({ entry }) => entry.start),
        plays.map(({ recording }) => recording),
        limit.allowed,
      );
      return joined(stretches).map(({ from, to, count }): LimitViolation => {
        const part = plays.slice(from, to + 1);
        return {
          limit: limit.id,
          value: nameOf(limit.subject, value, part),
          positions: part.map(({ entry }) => entry.position).sort((a, b) => a - b),
          start: elementAt(part, 0).entry.start,
          count,
          allowed: limit.allowed,
        };
      });
    }),
  );
}

/** Stretches that overlap, as one. */
function joined(stretches: readonly Excess[]): Excess[] {
  const result: Excess[] = [];
  for (const one of stretches) {
    const last = result.at(-1);
    if (last && one.from <= last.to)
      result[result.length - 1] = { from: last.from, to: one.to, count: Math.max(last.count, one.count) };
    else result.push(one);
  }
  return result;
}

/** The subject as its songs spell it; an act of several names that always play together by all of them. */
function nameOf(subject: LimitSubject, value: string, songs: readonly KeyedEntry[]): string {
  const { entry } = elementAt(songs, 0);
  if (subject === 'album') return entry.album;
  if (subject === 'set') return entry.set ?? '';
  const whole = mainCredit(entry.artist);
  if (songs.every((song) => nameKey(mainCredit(song.entry.artist)) === nameKey(whole))) return whole;
  return parseCredits(entry.artist).find(({ name }) => nameKey(name) === value)?.name ?? whole;
}

/** What of a song a library can be divided by. */
export interface BeginSong {
  readonly id: string;
  readonly year: number | null;
  /** The first day it may play. */
  readonly startDate: string | null;
  /** Path of its audio; its folder says where it comes from. */
  readonly file: string | null;
  readonly plays: number;
  readonly durationMs: number;
  readonly artistIds: readonly string[];
  readonly tags: Readonly<Record<string, readonly string[]>>;
}

/** One value of an axis with the songs that have it. */
export interface AxisValue {
  readonly label: string;
  readonly songs: number;
}

/** An order of a library along which it can be cut into categories. */
export interface Axis {
  /** `year`, `added`, `folder`, `plays`, or `tag:` and a family. */
  readonly key: string;
  readonly name: string;
  /** What the order says, for a person. */
  readonly why: string;
  /** In order; the first are to play most often. */
  readonly values: readonly AxisValue[];
}

/** An axis along with the value of each song, by its place in `values`. */
export interface PlacedAxis extends Axis {
  readonly places: readonly number[];
}

/** An axis of which fewer songs have a value says nothing of the library. */
const LEAST_KNOWN = 0.6;
const MOST_FOLDERS = 24;
const MOST_TAG_VALUES = 12;
const UNKNOWN = 'not known';

/** The orders a library offers, the most telling first; a library with titles and artists alone offers the whole. */
export function axesOf(songs: readonly BeginSong[]): PlacedAxis[] {
  if (songs.length === 0) return [];
  const found = [
    byValue(songs, 'year', 'Year', 'The newest play most often', ({ year }) => (year === null ? null : String(year)), {
      newestFirst: true,
    }),
    byValue(
      songs,
      'added',
      'First day',
      'What came last plays most often',
      ({ startDate }) => startDate?.slice(0, 7) ?? null,
      { newestFirst: true },
    ),
    byPlays(songs),
    byValue(songs, 'folder', 'Folder', 'As the files lie in folders', ({ file }) => folderOf(file), {
      most: MOST_FOLDERS,
    }),
    ...tagFamilies(songs).map((family) =>
      byValue(
        songs,
        `tag:${family}`,
        family,
        `As ${family.toLowerCase()} is tagged`,
        ({ tags }) => tags[family]?.[0] ?? null,
        {
          most: MOST_TAG_VALUES,
        },
      ),
    ),
  ].filter((axis) => axis !== null);
  return found.length > 0 ? found : [whole(songs)];
}

interface Order {
  readonly newestFirst?: boolean;
  /** With more values than these it is no order to cut by. */
  readonly most?: number;
}

function byValue(
  songs: readonly BeginSong[],
  key: string,
  name: string,
  why: string,
  valueOf: (song: BeginSong) => string | null,
  { newestFirst = false, most = Infinity }: Order,
): PlacedAxis | null {
  const values = songs.map(valueOf);
  const known = values.filter((value) => value !== null);
  const labels = [...new Set(known)].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  if (known.length < LEAST_KNOWN * songs.length || labels.length < 2 || labels.length > most) return null;
  if (newestFirst) labels.reverse();
  if (known.length < songs.length) labels.push(UNKNOWN);
  return placed(
    { key, name, why },
    labels,
    values.map((value) => value ?? UNKNOWN),
  );
}

const PLAYED = ['often', 'now and then', 'seldom', 'never'] as const;

/** Quarters of the songs that have played, the most played first, and those that never have. */
function byPlays(songs: readonly BeginSong[]): PlacedAxis | null {
  const counts = songs.map(({ plays }) => plays).filter((plays) => plays > 0);
  if (counts.length < LEAST_KNOWN * songs.length) return null;
  const sorted = [...counts].sort((a, b) => b - a);
  const [often, seldom] = [
    sorted[Math.floor(sorted.length / 4)] ?? 0,
    sorted[Math.floor((sorted.length * 3) / 4)] ?? 0,
  ];
  if (often === seldom) return null;
  const values = songs.map(({ plays }) =>
    plays === 0 ? 'never' : plays > often ? 'often' : plays > seldom ? 'now and then' : 'seldom',
  );
  const labels = PLAYED.filter((label) => values.includes(label));
  return placed({ key: 'plays', name: 'Plays', why: 'What has played most goes on playing most' }, labels, values);
}

function whole(songs: readonly BeginSong[]): PlacedAxis {
  return placed(
    { key: 'all', name: 'All songs', why: 'Titles and artists alone say nothing to divide the songs by' },
    ['all songs'],
    songs.map(() => 'all songs'),
  );
}

function placed(
  about: Pick<Axis, 'key' | 'name' | 'why'>,
  labels: readonly string[],
  values: readonly string[],
): PlacedAxis {
  const at = new Map(labels.map((label, n) => [label, n]));
  const places = values.map((value) => at.get(value) ?? labels.length - 1);
  const counts = labels.map(() => 0);
  for (const place of places) counts[place] = (counts[place] ?? 0) + 1;
  return { ...about, values: labels.map((label, n) => ({ label, songs: counts[n] ?? 0 })), places };
}

function tagFamilies(songs: readonly BeginSong[]): string[] {
  const families = new Set(songs.flatMap(({ tags }) => Object.keys(tags)));
  // Tempo and energy divide a library better than moods do.
  const first = (name: string): number => (/tempo|energy|speed/i.test(name) ? 0 : 1);
  return [...families].sort((a, b) => first(a) - first(b) || a.localeCompare(b));
}

function folderOf(file: string | null): string | null {
  const parts = file?.split(/[\\/]/).filter(Boolean) ?? [];
  return parts.length > 1 ? (parts[parts.length - 2] ?? null) : null;
}

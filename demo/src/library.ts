import type { ItemKind } from '@fuller/core';
import { NameMaker } from './names.js';
import { Dice } from './random.js';
import { LABELS, SPONSORS } from './words.js';

/** An item of the demo library before it is stored. */
export interface DemoItem {
  readonly kind: ItemKind;
  readonly title: string;
  readonly artist: string;
  readonly album: string;
  readonly year: number | null;
  readonly durationMs: number;
  readonly introMs: number | null;
  readonly outroMs: number | null;
  readonly cart: string;
  readonly file: string | null;
  readonly isrc: string | null;
  readonly label: string | null;
  readonly tags: Record<string, string[]>;
  /** Short code of its category; null for the few that have none. */
  readonly category: string | null;
  /** For a tease that is tied to a song: the song’s cart. */
  readonly announces?: string;
}

type Style = 'folk' | 'groove' | 'electronic' | 'soul';
interface SongPlan {
  readonly code: string;
  readonly count: number;
  readonly years: readonly [number, number];
  readonly styles: Readonly<Record<Style, number>>;
  readonly tempo: readonly [number, number];
}

const MIXED = { folk: 4, groove: 2, electronic: 2, soul: 3 };
const SONG_PLANS: readonly SongPlan[] = [
  { code: 'F', count: 22, years: [2026, 2026], styles: MIXED, tempo: [3.3, 1] },
  { code: 'A', count: 18, years: [2025, 2026], styles: MIXED, tempo: [3.6, 0.9] },
  { code: 'B', count: 34, years: [2025, 2026], styles: MIXED, tempo: [3.3, 1] },
  { code: 'R', count: 70, years: [2022, 2025], styles: MIXED, tempo: [3.2, 1] },
  { code: 'G', count: 260, years: [1988, 2021], styles: MIXED, tempo: [3.4, 0.9] },
  { code: 'D', count: 520, years: [1964, 2012], styles: MIXED, tempo: [2.9, 1.1] },
  {
    code: 'L',
    count: 90,
    years: [2012, 2026],
    styles: { folk: 6, groove: 1, electronic: 2, soul: 1 },
    tempo: [2.8, 1],
  },
  {
    code: 'W',
    count: 180,
    years: [1970, 2026],
    styles: { folk: 1, groove: 8, electronic: 1, soul: 1 },
    tempo: [3.5, 1],
  },
  {
    code: 'N',
    count: 200,
    years: [1972, 2026],
    styles: { folk: 3, groove: 1, electronic: 4, soul: 2 },
    tempo: [2, 0.8],
  },
  { code: '', count: 6, years: [1990, 2026], styles: MIXED, tempo: [3, 1] },
];

const TEXTURES = { sparse: 3, warm: 4, bright: 4, dense: 2, hard: 1 };
const MOODS = { glad: 3, easy: 4, wistful: 3, dark: 1, fierce: 1 };
const THEMES = { water: 1, home: 1, love: 4, road: 2, night: 2, work: 1, seasons: 1 };

/** The whole demo library; the same for the same dice. */
export function demoLibrary(dice: Dice): DemoItem[] {
  const names = new NameMaker(dice);
  const songs = demoSongs(dice, names);
  return [...songs, ...demoImaging(dice, songs)];
}

interface Act {
  readonly name: string;
  readonly style: Style;
  readonly voice: string;
  readonly from: number;
  readonly to: number;
  readonly irish: boolean;
  readonly albums: { name: string; year: number; songs: number }[];
  room: number;
}

function demoSongs(dice: Dice, names: NameMaker): DemoItem[] {
  const acts: Act[] = [];
  const songs: DemoItem[] = [];
  for (const plan of SONG_PLANS) {
    for (let i = 0; i < plan.count; i++) {
      const year = dice.whole(...plan.years);
      const act = actFor(dice, names, acts, plan, year);
      songs.push(songOf(dice, names, acts, act, plan, year, songs.length));
    }
  }
  return songs;
}

/** An act active in that year with songs left, or a new one: few acts with many songs, many with one to three. */
function actFor(dice: Dice, names: NameMaker, acts: Act[], plan: SongPlan, year: number): Act {
  const style = dice.weighted(plan.styles);
  const known = acts.filter((act) => act.room > 0 && act.style === style && act.from <= year && year <= act.to);
  if (known.length > 0 && dice.chance(0.72)) {
    const act = dice.pick(known);
    act.room--;
    return act;
  }
  const from = Math.max(1964, year - dice.whole(0, 14));
  const room = dice.chance(0.06) ? dice.whole(10, 14) : dice.chance(0.4) ? dice.whole(2, 5) : dice.whole(0, 2);
  const act: Act = {
    name: names.artist(style),
    style,
    voice: dice.weighted({ female: 36, male: 36, group: 12, duet: 5, instrumental: style === 'electronic' ? 30 : 8 }),
    from,
    to: Math.min(2026, from + dice.whole(12, 34)),
    irish: style === 'folk' && dice.chance(0.22),
    albums: [],
    room,
  };
  acts.push(act);
  return act;
}

function songOf(
  dice: Dice,
  names: NameMaker,
  acts: readonly Act[],
  act: Act,
  plan: SongPlan,
  year: number,
  index: number,
): DemoItem {
  const irish = act.irish && dice.chance(0.7);
  const featured = dice.chance(0.09) && acts.length > 20 ? dice.pick(acts).name : null;
  const durationMs = Math.round(Math.min(570, Math.max(110, dice.normal(218, 52)))) * 1000;
  const instrumental = act.voice === 'instrumental';
  const tempo = Math.min(5, Math.max(1, Math.round(dice.normal(...plan.tempo))));
  return {
    kind: 'song',
    title: names.title(irish),
    artist: featured && featured !== act.name ? `${act.name} feat. ${featured}` : act.name,
    album: albumOf(dice, names, act, year),
    year,
    durationMs,
    introMs: instrumental ? null : dice.whole(2, 28) * 1000,
    outroMs: dice.whole(4, 14) * 1000,
    cart: `M${String(10_001 + index)}`,
    file: `music/M${String(10_001 + index)}.wav`,
    isrc: `ZZ${dice.pick(['OV1', 'TP7', 'LK3'])}${String(year % 100).padStart(2, '0')}${String(dice.whole(0, 99_999)).padStart(5, '0')}`,
    label: dice.pick(LABELS),
    tags: {
      voice: [act.voice],
      tempo: [String(tempo)],
      texture: [dice.weighted(TEXTURES)],
      mood: [dice.weighted(MOODS)],
      language: instrumental ? [] : [irish ? 'ga' : act.style === 'groove' && dice.chance(0.6) ? 'pt' : 'en'],
      theme: [dice.weighted(THEMES)],
      style: [act.style],
    },
    category: plan.code || null,
  };
}

function albumOf(dice: Dice, names: NameMaker, act: Act, year: number): string {
  const near = act.albums.find((album) => Math.abs(album.year - year) <= 2 && album.songs < 5);
  if (near) {
    near.songs++;
    return near.name;
  }
  const album = { name: names.album(act.name), year, songs: 1 };
  act.albums.push(album);
  return album.name;
}

interface ImagingPlan {
  readonly kind: ItemKind;
  readonly code: string;
  readonly count: number;
  readonly seconds: readonly [number, number];
  readonly prefix: string;
  readonly title: (dice: Dice, index: number) => string;
}

const PLACES = [
  'on the water',
  'from the wharf',
  'for the valley',
  'all along the cut',
  'by lamplight',
  'in good company',
];
/** Their own, so that what they are does not change what the rest of the library is. */
const FILLING_SEED = 4601;
const INTERLUDES = 28;
const TEASE = { kind: 'tease', code: 'TS', prefix: 'T' } as const;
const LOCAL_TEASES = 14;
const SHOW_NAMES = ['Towpath Breakfast', 'The Long Lock', 'Narrowboat Sessions'];
const IMAGING_PLANS: readonly ImagingPlan[] = [
  {
    kind: 'station ID',
    code: 'ID',
    count: 30,
    seconds: [6, 12],
    prefix: 'I',
    title: (dice, i) => `97.1 ${dice.pick(PLACES)} ${i + 1}`,
  },
  {
    kind: 'jingle',
    code: 'JG',
    count: 24,
    seconds: [4, 9],
    prefix: 'J',
    title: (dice, i) => `Jingle ${dice.pick(['harp', 'brass', 'fiddle', 'voices', 'marimba'])} ${i + 1}`,
  },
  {
    kind: 'sweeper',
    code: 'SW',
    count: 40,
    seconds: [3, 7],
    prefix: 'W',
    title: (dice, i) => `Sweeper ${dice.pick(['bright', 'warm', 'evening', 'drive', 'weekend'])} ${i + 1}`,
  },
  {
    kind: 'liner',
    code: 'LN',
    count: 23,
    seconds: [5, 10],
    prefix: 'N',
    title: (_dice, i) => `Liner ${i + 1}: more music from the valley`,
  },
  {
    kind: 'promo',
    code: 'PR',
    count: 24,
    seconds: [20, 40],
    prefix: 'P',
    title: (dice, i) =>
      `${dice.pick(['Towpath Breakfast', 'The Long Lock', 'Narrowboat Sessions', 'Request hour'])} promo ${i + 1}`,
  },
  { kind: 'bed', code: 'BD', count: 12, seconds: [90, 180], prefix: 'D', title: (_dice, i) => `Talk bed ${i + 1}` },
  {
    kind: 'voice track',
    code: 'VT',
    count: 40,
    seconds: [25, 55],
    prefix: 'V',
    title: (dice, i) => `${dice.pick(['Maud', 'Lorcan', 'Tamsin', 'Ivo'])} link ${i + 1}`,
  },
];

function demoImaging(dice: Dice, songs: readonly DemoItem[]): DemoItem[] {
  const items = IMAGING_PLANS.flatMap((plan) =>
    Array.from({ length: plan.count }, (_, index) =>
      imagingItem(plan, plan.title(dice, index), dice.whole(...plan.seconds), index),
    ),
  );
  const messages = SPONSORS.flatMap((sponsor, s) =>
    [1, 2].map((n) => ({
      ...imagingItem(
        { kind: 'sponsor message', code: 'SP', prefix: 'S' },
        `${sponsor} message ${n}`,
        dice.whole(14, 24),
        s * 2 + n - 1,
      ),
      artist: sponsor,
    })),
  );
  const programmes = ['Narrowboat Sessions, this week', 'Valley Council Hour', 'The Lamp Room Reading'].map(
    (title, index) => imagingItem({ kind: 'programme', code: 'PG', prefix: 'G' }, title, dice.whole(1500, 3300), index),
  );
  const current = songs.filter((song) => ['F', 'A'].includes(song.category ?? '')).slice(0, 40);
  const teases = current.map((song, index) => teaseOf(song, dice.whole(6, 11), index));
  return [
    ...items,
    ...messages,
    ...programmes,
    ...teases,
    ...moreTeases(songs, new Dice(FILLING_SEED), teases.length),
    ...filling(new Dice(FILLING_SEED)),
  ];
}

/** The tease of a song: one in two has its title and artist, the others are tied to it. */
function teaseOf(song: DemoItem, seconds: number, index: number): DemoItem {
  if (index % 2 === 0) return { ...imagingItem(TEASE, song.title, seconds, index), artist: song.artist };
  return { ...imagingItem(TEASE, `Coming up: ${song.title}`, seconds, index), announces: song.cart };
}

/** Teases of the artists the local hours play most, and of the shows. */
function moreTeases(songs: readonly DemoItem[], dice: Dice, before: number): DemoItem[] {
  const counts = new Map<string, number>();
  for (const { category, artist } of songs)
    if (category === 'L' && !artist.includes('feat.')) counts.set(artist, (counts.get(artist) ?? 0) + 1);
  const artists = [...counts].sort(([, a], [, b]) => b - a).slice(0, LOCAL_TEASES);
  return [
    ...artists.map(([artist]) => ({ title: artist, artist })),
    ...SHOW_NAMES.map((title) => ({ title, artist: '' })),
  ].map(({ title, artist }, n) => ({ ...imagingItem(TEASE, title, dice.whole(6, 11), before + n), artist }));
}

/** Short pieces of every length to fill an hour with, and the announcements of the shows. */
function filling(dice: Dice): DemoItem[] {
  const pieces = Array.from({ length: INTERLUDES }, (_, index) =>
    imagingItem(
      { kind: 'bed', code: 'IN', prefix: 'E' },
      `Interlude ${index + 1}, ${dice.pick(['harp', 'fiddle', 'flute', 'piano', 'strings'])}`,
      dice.whole(10, 75),
      index,
    ),
  );
  const shows = SHOW_NAMES.map((show, index) =>
    imagingItem({ kind: 'promo', code: 'AN', prefix: 'A' }, `Next: ${show}`, dice.whole(6, 9), index),
  );
  return [...pieces, ...shows];
}

function imagingItem(
  plan: Pick<ImagingPlan, 'kind' | 'code' | 'prefix'>,
  title: string,
  seconds: number,
  index: number,
): DemoItem {
  const cart = `${plan.prefix}${String(index + 1).padStart(4, '0')}`;
  return {
    kind: plan.kind,
    title,
    artist: '',
    album: '',
    year: null,
    durationMs: seconds * 1000,
    introMs: null,
    outroMs: null,
    cart,
    file: `imaging/${cart}.wav`,
    isrc: null,
    label: null,
    tags: {},
    category: plan.code,
  };
}

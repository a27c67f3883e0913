import { elementAt, lookUpIn, Random, type Instance, type InstanceRule } from '@fuller/core';

export const FAMILIES = ['loose', 'tight', 'starved', 'flow', 'compliance', 'planted'] as const;
export type Family = (typeof FAMILIES)[number];

export interface FamilySize {
  readonly hours: number;
  readonly slotsPerHour: number;
  readonly items: number;
  readonly historyDays: number;
}

/** Shares of the items and of the slots that each pool has; the first is the one that turns over fastest. */
const POOLS = [
  ['A', 0.04, 0.2],
  ['B', 0.1, 0.27],
  ['C', 0.26, 0.27],
  ['D', 0.6, 0.26],
] as const;

/** An instance of a family: made from a seed, so that it can be had again. */
export function makeInstance(family: Family, size: FamilySize, seed: number): Instance {
  const random = new Random(seed);
  const pick = <T>(values: readonly T[]): T => elementAt(values, random.below(values.length));
  const artists = Math.max(6, Math.round(size.items / (family === 'tight' ? 3.2 : family === 'compliance' ? 4 : 2.6)));
  const items = Array.from({ length: size.items }, (_, i) => {
    // Few artists have many songs.
    const artist = Math.floor(artists * random.unit() * random.unit());
    const guests = random.below(14) === 0 ? [`a${random.below(artists)}`] : [];
    return {
      id: `i${i}`,
      duration: 150 + random.below(140),
      tags: {
        title: [`t${random.below(60) === 0 ? random.below(i + 1) : i}`],
        artist: [...new Set([`a${artist}`, ...guests])],
        album: [`b${artist}-${random.below(family === 'compliance' ? 2 : 4)}`],
        voice: [pick(['female', 'female', 'male', 'male', 'duet'])],
        tempo: [pick(['slow', 'medium', 'fast'])],
        texture: random.below(6) === 0 ? ['warm', 'soft'] : [pick(['warm', 'soft', 'bright', 'hard'])],
        language: [random.below(4) === 0 ? 'ga' : 'en'],
      },
    };
  });
  const pools: Record<string, { items: string[]; order: 'even' }> = {};
  let taken = 0;
  for (const [name, share] of POOLS) {
    const count = name === 'D' ? size.items - taken : Math.max(7, Math.round(size.items * share));
    pools[name] = { items: items.slice(taken, taken + count).map((item) => item.id), order: 'even' };
    taken += count;
  }
  const gap = 3600 / size.slotsPerHour;
  const slots = Array.from({ length: size.hours * size.slotsPerHour }, (_, s) => ({
    id: `s${s}`,
    start: Math.round(s * gap + random.below(20)),
    hour: Math.floor(s / size.slotsPerHour),
    pool: poolAt(s % size.slotsPerHour, size.slotsPerHour),
  }));
  const history = makeHistory(pools, size, random);
  const rules = rulesOf(family, size, pools);
  const instance: Instance = { format: 'fuller-instance', version: 1, items, pools, slots, history, rules };
  if (family === 'starved') return starve(instance, random);
  return instance;
}

function poolAt(place: number, perHour: number): string {
  // Spread over the hour by the golden ratio, so that pools take turns.
  const point = (place * 0.618_034 + 0.5 / perHour) % 1;
  let sum = 0;
  for (const [name, , share] of POOLS) {
    sum += share;
    if (point < sum) return name;
  }
  return 'D';
}

/** Days before, each pool in turn with a little disorder. */
function makeHistory(pools: Instance['pools'], size: FamilySize, random: Random): Instance['history'] {
  const plays: { item: string; start: number }[] = [];
  const next: Record<string, number> = {};
  const perDay = 24 * size.slotsPerHour;
  for (let back = size.historyDays * perDay; back > 0; back--) {
    const pool = poolAt(back % size.slotsPerHour, size.slotsPerHour);
    const { items } = lookUpIn(pools, pool);
    const turn = (next[pool] = (next[pool] ?? random.below(items.length)) + 1);
    const item = elementAt(items, (turn + random.below(Math.max(1, items.length >> 2))) % items.length);
    plays.push({ item, start: -Math.round((back * 3600) / size.slotsPerHour) });
  }
  return plays;
}

function rulesOf(family: Family, size: FamilySize, pools: Instance['pools']): InstanceRule[] {
  const turnover = (lookUpIn(pools, 'A').items.length * 3600) / (size.slotsPerHour * 0.2);
  const title = Math.round(turnover * (family === 'tight' || family === 'planted' ? 0.62 : 0.45));
  const artist = family === 'tight' ? 3300 : family === 'planted' ? 3000 : family === 'flow' ? 3000 : 1800;
  const list: Record<string, unknown>[] = [
    { shape: 'apart', tag: 'title', seconds: Math.min(title, 10 * 3600), strength: 'hard' },
    { shape: 'apart', tag: 'artist', seconds: artist, strength: 'hard' },
  ];
  const soft = (rule: Record<string, unknown>): void => void list.push({ ...rule, strength: 'soft' });
  if (family === 'compliance') {
    list.push({ shape: 'atMost', tag: 'album', count: 3, window: 10_800, strength: 'hard' });
    list.push({ shape: 'atMost', tag: 'artist', count: 4, window: 10_800, strength: 'hard' });
    list.push({ shape: 'streak', tag: 'album', max: 2, strength: 'hard' });
    soft({ shape: 'atMost', tag: 'album', count: 1, window: 7200 });
    soft({ shape: 'apart', tag: 'album', seconds: 5400 });
  } else {
    list.push({ shape: 'atMost', tag: 'album', count: 3, window: 10_800, strength: 'hard' });
  }
  if (family === 'flow') {
    soft({ shape: 'streak', tag: 'texture', max: 1 });
    soft({ shape: 'handOff', tag: 'tempo', from: 'slow', to: 'fast' });
    soft({ shape: 'handOff', tag: 'tempo', from: 'fast', to: 'slow' });
    soft({ shape: 'streak', tag: 'tempo', value: 'medium', max: 1 });
    soft({ shape: 'atLeast', tag: 'voice', value: 'female', count: 5, window: 'hour' });
  }
  soft({ shape: 'streak', tag: 'voice', max: 2 });
  soft({ shape: 'handOff', tag: 'voice', from: 'duet', to: 'female' });
  soft({ shape: 'atMost', tag: 'tempo', value: 'slow', count: 5, window: 'hour' });
  soft({ shape: 'atLeast', tag: 'language', value: 'ga', count: family === 'flow' ? 4 : 2, window: 'hour' });
  soft({ shape: 'otherHour', tag: 'title', days: 2 });
  soft({ shape: 'atMost', tag: 'texture', value: 'hard', count: 4, window: 'hour' });
  soft({ shape: 'streak', tag: 'tempo', max: 3 });
  let rank = 0;
  return list.map((rule, i) => ({
    id: `r${i + 1}`,
    ...rule,
    ...(rule['strength'] === 'soft' ? { rank: ++rank } : {}),
  })) as InstanceRule[];
}

/** Slots that cannot be filled: filters that leave only what has just played, or what the slot beside it needs. */
function starve(instance: Instance, random: Random): Instance {
  const every = 40;
  const slots = instance.slots.map((slot, s) => {
    if (s % every !== 7 && s % every !== 8) return slot;
    const { items } = lookUpIn(instance.pools, slot.pool);
    const one = elementAt(items, (Math.floor(s / every) * 13) % items.length);
    return { ...slot, allow: s % every === 7 || random.below(2) === 0 ? [one] : items.slice(0, 2) };
  });
  const neighbours = slots.map((slot, s) =>
    s % every === 8 ? { ...slot, pool: elementAt(slots, s - 1).pool, allow: elementAt(slots, s - 1).allow! } : slot,
  );
  return { ...instance, slots: neighbours };
}

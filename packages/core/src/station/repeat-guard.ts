import { lookUpIn } from '../values/look-up.js';
import type { InstanceRule } from '../rules/shapes.js';
import type { InstanceSlot } from '../sequence/parts.js';
import type { Order } from '../sequence/orders.js';
import type { StationModel } from './station-model.js';

/** The engine's own wish that songs do not repeat too soon; its breaks are no strains of a log. */
const REPEAT = 'repeat';
/** Before every wish a person can have. */
const BEFORE_ALL = 0;

/** The share of a category that plays before one of its songs may return, where nothing forces it sooner. */
const SHARE: Readonly<Record<Order, number>> = {
  even: 0.5,
  shuffle: 0.5,
  random: 0.5,
  weighted: 0.25,
  fewestPlays: 0.5,
  artistRest: 0.5,
  newest: 0.5,
  inOrder: 0.5,
};
/** Of songs beyond so many half the share is asked: a large category needs room to bring hours to their marks. */
const SMALL = 16;

interface GuardOptions {
  readonly model: StationModel;
  readonly slots: readonly InstanceSlot[];
  readonly pools: Readonly<Record<string, { readonly items: readonly string[]; readonly order: Order }>>;
  readonly rules: readonly InstanceRule[];
  /** When an item played before the day, seconds from its start, latest first. */
  readonly ago: (itemId: string) => readonly number[];
  /** Slots for fill that is not chosen yet; they stand for no play. */
  readonly unused: ReadonlySet<string>;
}

/**
 * Rules with one more in front: in each slot a song has not played in the last so many slots of its category. How many
 * depends on how many songs the slot can have: with n songs the n-th slot before is where a song returns at the
 * latest, so some share of n is asked. One song alone may repeat.
 */
export function withRepeatGuard({ model, slots, pools, rules, ago, unused }: GuardOptions): InstanceRule[] {
  const secondsBySlot: Record<string, number> = {};
  const byPool = new Map<string, InstanceSlot[]>();
  for (const slot of slots) {
    const own = byPool.get(slot.pool);
    if (own) own.push(slot);
    else byPool.set(slot.pool, [slot]);
  }
  const songsIn = (items: readonly string[]): number => new Set(items.map((id) => model.songOf.get(id))).size;
  for (const [pool, own] of byPool) {
    const { items, order } = lookUpIn(pools, pool);
    const whole = songsIn(items);
    const share = SHARE[order];
    const groups = new Map<readonly string[], Group>();
    const all: Group = { starts: lastStarts(items, ago, whole), songs: whole, lengthOf: averageLength(model, items) };
    for (const slot of own) {
      let group = all;
      // A line whose filter leaves few songs takes turns among these.
      if (slot.allow && slot.locked === undefined) {
        const known = groups.get(slot.allow);
        const count = known?.songs ?? songsIn(slot.allow);
        if (count * 2 < whole) {
          group = known ?? { starts: lastStarts(slot.allow, ago, count), songs: count, lengthOf: all.lengthOf };
          groups.set(slot.allow, group);
        }
      }
      const asked = secondsFor(slot.start, group, share);
      if (asked > 0) secondsBySlot[slot.id] = asked;
      if (!unused.has(slot.id)) group.starts.push(slot.start);
    }
  }
  return [
    { id: REPEAT, shape: 'apart', tag: 'song', seconds: 0, secondsBySlot, strength: 'soft', rank: BEFORE_ALL },
    ...rules,
  ];
}

/** Slots that take turns among the same songs. */
interface Group {
  /** Starts of plays and slots so far, ascending seconds. */
  readonly starts: number[];
  readonly songs: number;
  /** Average length of an item, seconds. */
  readonly lengthOf: number;
}

/** How long after its end a song may return at a start, seconds; 0 where it may return at once. */
function secondsFor(start: number, { starts, songs, lengthOf }: Group, share: number): number {
  if (songs < 2) return 0;
  const steps = Math.max(2, Math.round(share * (Math.min(songs, SMALL) + Math.max(0, songs - SMALL) / 2)));
  const allowed = starts[starts.length - steps];
  const refused = starts[starts.length - steps + 1] ?? starts[0];
  if (refused === undefined) return 1;
  // Halfway between the two, as the length of what played is not known.
  const middle = allowed === undefined ? refused : (allowed + refused) / 2 + lengthOf;
  return Math.max(1, Math.round(start - middle));
}

function lastStarts(items: readonly string[], ago: GuardOptions['ago'], most: number): number[] {
  const starts = items.flatMap((id) => ago(id).slice(0, 4));
  return starts.sort((a, b) => a - b).slice(-most);
}

function averageLength(model: StationModel, items: readonly string[]): number {
  if (items.length === 0) return 0;
  return items.reduce((sum, id) => sum + (model.known.get(id)?.durationMs ?? 0), 0) / items.length / 1000;
}

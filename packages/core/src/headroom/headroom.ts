import type { Rule } from '../rules/rule.js';
import type { StationModel } from '../station/station-model.js';
import { lastOf } from '../values/look-up.js';
import { boundsOf } from './bounds.js';
import { shareOf, type Bound, type Ground, type HeadroomMeasure } from './ground.js';
import { chargedSlots, sharesOf, type ValueShares, type WeekDemand } from './demand.js';

/** How much room a rule leaves. */
export const HEADROOM_STATES = ['idle', 'easy', 'tight', 'impossible'] as const;
export type HeadroomState = (typeof HEADROOM_STATES)[number];

/** A rule held against what the week asks of the library. */
export interface Headroom {
  readonly state: HeadroomState;
  /** What is asked, and the most there can be of it; both in the unit of the measure. */
  readonly demand: number;
  readonly capacity: number;
  readonly measure: HeadroomMeasure;
  /** The value that is short, of a rule about each value by itself too. */
  readonly value: string | null;
  /** The category where it is tightest; null for all of them together. */
  readonly categoryId: string | null;
  /** Where in the week it is tightest, seconds from Monday 00:00; null where it is everywhere alike. */
  readonly at: number | null;
  /** Why an idle rule is so. */
  readonly idle: 'no slot' | 'no item' | 'never reached' | null;
  readonly trap: HeadroomTrap | null;
}

/**
 * A category holds more of a value than a rule lets it play: taking turns evenly, its items fall behind or hold the others
 * up. A category of their own, with as many slots an hour as the rule allows, lets both turn.
 */
export interface HeadroomTrap {
  readonly categoryId: string;
  readonly value: string;
  /** Of the category's items, and how many of them have the value. */
  readonly items: number;
  readonly withValue: number;
  readonly askedPerHour: number;
  readonly allowedPerHour: number;
  /** Slots an hour that a category of its own would get. */
  readonly proposedSlots: number;
}

/** Up to this share of what is possible a rule is easy: the engine finds such days without giving anything up. */
const EASY_SHARE = 0.5;

/**
 * The largest demand the library can meet under a rule against what the week asks of it. Two kinds of bound: pigeonhole
 * bounds that hold for every log (so many slots in a stretch, so many values that differ; Dirichlet's principle), which
 * prove a rule impossible, and the share that even turns give a value, which tells a tight one.
 */
export function headroomOf(model: StationModel, demand: WeekDemand, rule: Rule): Headroom {
  const charged = chargedSlots(demand, rule);
  if (charged.length === 0) return idle('no slot');
  const shares = sharesOf(model, demand, rule.tag);
  const sources = [...new Set(charged.map(({ slot }) => slot.source))];
  const bears = (value: string | null): boolean =>
    sources.some((name) => {
      const share = shares.get(name);
      return share !== undefined && (value === null ? share.byValue.size > 0 : share.byValue.has(value));
    });
  if (rule.shape !== 'atLeast' && (!bears(rule.value) || (rule.followedBy !== null && !bears(rule.followedBy))))
    return idle('no item');
  const bounds = boundsOf({ model, demand, rule, charged, shares });
  if (bounds.length === 0) return idle('never reached');
  const impossible = bounds.filter(({ proven, demand: asked, capacity }) => proven && asked > capacity);
  const worst = tightest(impossible.length > 0 ? impossible : bounds);
  const ratio = ratioOf(worst);
  const state = impossible.length > 0 ? 'impossible' : ratio <= EASY_SHARE ? 'easy' : 'tight';
  const { proven, ...told } = worst;
  void proven;
  return { ...told, state, idle: null, trap: state === 'easy' ? null : trapOf(rule, charged, shares) };
}

function idle(why: NonNullable<Headroom['idle']>): Headroom {
  return {
    state: 'idle',
    demand: 0,
    capacity: 0,
    measure: 'different values',
    value: null,
    categoryId: null,
    at: null,
    idle: why,
    trap: null,
  };
}

function ratioOf({ demand, capacity }: Pick<Bound, 'demand' | 'capacity'>): number {
  return capacity === 0 ? Infinity : demand / capacity;
}

function tightest(bounds: readonly Bound[]): Bound {
  return bounds.reduce((a, b) => (ratioOf(b) > ratioOf(a) ? b : a));
}

/** The category that holds more of a value than the rule lets it play an hour. */
function trapOf(rule: Rule, charged: Ground['charged'], shares: ReadonlyMap<string, ValueShares>): HeadroomTrap | null {
  if (rule.shape !== 'atMost' || rule.value === null) return null;
  const { value } = rule;
  const perHour = new Map<string, Map<number, number>>();
  for (const { slot } of charged) {
    const hours = perHour.get(slot.source) ?? new Map<number, number>();
    hours.set(slot.hour, (hours.get(slot.hour) ?? 0) + 1);
    perHour.set(slot.source, hours);
  }
  const allowed = Math.min(...charged.map(({ amount }) => amount)) * (3600 / (rule.windowSeconds ?? 3600));
  const worst = [...perHour]
    .map(([source, hours]) => {
      const share = shares.get(source);
      const most = Math.max(...hours.values());
      return { source, share, asked: most * shareOf(share, value) };
    })
    .reduce((a, b) => (b.asked > a.asked ? b : a));
  if (!worst.share || worst.asked <= allowed) return null;
  const { slot } = lastOf(charged.filter((one) => one.slot.source === worst.source));
  return {
    categoryId: slot.location.categoryId ?? '',
    value,
    items: worst.share.items,
    withValue: worst.share.byValue.get(value) ?? 0,
    askedPerHour: worst.asked,
    allowedPerHour: allowed,
    proposedSlots: Math.max(1, Math.floor(allowed)),
  };
}

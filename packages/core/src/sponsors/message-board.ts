import { Random } from '../engine/random.js';
import type { DailyLog } from '../log/daily-log.js';
import type { StationModel } from '../station/station-model.js';
import { nameKey } from '../text/fold.js';
import { elementAt, lookUp } from '../values/look-up.js';
import { dailyAsks, type DailyAsk } from './daily-asks.js';
import { nearSpots, sponsorIn, type MessageSlot } from './message-slots.js';
import { NO_SPONSORS } from './sponsor.js';

/** Times move a little after messages were placed; rivals are kept so much further apart, milliseconds. */
const MARGIN_MS = 60_000;
const MOST_STEPS = 4000;
/** What a message in another's way weighs, and a promised one that is missing. */
const BAR = 100;
const UNKEPT = 100;
const HOTTEST = 60;
const SEED = 1;
/** So many slots away is nearby. */
const NEARBY = 5;
/** After so many steps what is in the way is looked for again. */
const LOOK_AGAIN = 40;
/** In place of a sponsor where nothing stands, and of a product that has no rivals. */
const NONE = -1;

/** A promise with what came of it on a day. */
export interface KeptAsk extends DailyAsk {
  readonly placed: number;
  /** Slots for messages in its daypart. */
  readonly slots: number;
}

/** One message that a promise asks for, and the slots it may take, the best first. */
interface Unit {
  readonly sponsor: number;
  readonly places: readonly number[];
}

/** An ask as the board counts it. */
interface BoardAsk {
  readonly ask: DailyAsk;
  /** NONE for a sponsor without a message on the day. */
  readonly sponsor: number;
  /** By slot, 1 where a message counts for it. */
  readonly counts: Uint8Array;
}

/** The sponsors of a day's slots while they are placed; sponsors and slots are numbers. */
export class MessageBoard {
  /** Keys of the sponsors that have messages on the day. */
  private readonly keys: readonly string[];
  /** By slot, its sponsor. */
  private readonly at: Int16Array;
  private readonly free: readonly number[];
  private readonly isFree: Uint8Array;
  private readonly unitAt: (Unit | null)[];
  private readonly asks: readonly BoardAsk[];
  /** By sponsor. */
  private readonly products: Int16Array;
  private readonly asksOf: readonly (readonly BoardAsk[])[];
  /** By slot and product, 1 where a spot of that product by another is near. */
  private readonly barredBySpot: ReadonlyMap<number, ReadonlySet<string>>;
  /** Whether slots in which nothing stands are still to be filled. */
  private isFilling = true;
  /** Units of promises for which there is no slot, whatever stands elsewhere. */
  private withoutSlot = 0;
  private readonly apartMs: number;
  private readonly mostPerHour: number;

  /** Slots in `kept` stay as they are. */
  constructor(
    private readonly model: StationModel,
    private readonly log: DailyLog,
    private readonly slots: readonly MessageSlot[],
    kept: ReadonlySet<string>,
  ) {
    const policy = model.data.sponsors ?? NO_SPONSORS;
    const stand = slots.map((slot) => (kept.has(slot.entryId) ? sponsorIn(model, slot) : null));
    this.keys = [
      ...new Set([...slots.flatMap(({ messages }) => [...messages.keys()]), ...stand.flatMap((key) => key ?? [])]),
    ];
    const numbers = new Map(this.keys.map((key, n) => [key, n]));
    this.at = Int16Array.from(stand, (key) => (key === null ? NONE : lookUp(numbers, key)));
    this.isFree = Uint8Array.from(slots, ({ entryId }) => (kept.has(entryId) ? 0 : 1));
    this.free = slots.flatMap((_, place) => (this.isFree[place] ? [place] : []));
    this.unitAt = slots.map(() => null);
    this.apartMs = policy.rivalsApartMs + MARGIN_MS;
    this.mostPerHour = policy.mostPerHour ?? Infinity;
    const productOf = new Map(policy.sponsors.map(({ name, product }) => [nameKey(name), nameKey(product)]));
    const products = [...new Set(productOf.values())].filter((product) => product !== '');
    this.products = Int16Array.from(this.keys, (key) => products.indexOf(productOf.get(key) ?? ''));
    this.asks = dailyAsks(model, log.date).map((ask) => ({
      ask,
      sponsor: numbers.get(ask.sponsor) ?? NONE,
      counts: Uint8Array.from(slots, ({ daypartIds }) =>
        ask.promise.daypartId === null || daypartIds.includes(ask.promise.daypartId) ? 1 : 0,
      ),
    }));
    this.asksOf = this.keys.map((_, sponsor) => this.asks.filter((one) => one.sponsor === sponsor));
    const spots = nearSpots(model, log).map((spot) => ({ ...spot, product: products.indexOf(spot.product) }));
    this.barredBySpot = new Map(
      slots.map((slot, place) => [
        place,
        new Set(
          this.keys.filter((key, sponsor) =>
            spots.some(
              (spot) =>
                spot.product !== NONE &&
                spot.product === this.products[sponsor] &&
                spot.sponsor !== key &&
                this.isNear(spot, slot),
            ),
          ),
        ),
      ]),
    );
  }

  /** The key of the sponsor of a slot; null where nothing stands. */
  sponsorAt(place: number): string | null {
    return this.keys[this.at[place]!] ?? null;
  }

  /** Whether the board decides on a slot. */
  decides(place: number): boolean {
    return this.isFree[place] === 1;
  }

  /** What was promised, unit by unit: each takes a slot, and moves to another one where that lets one more be kept. */
  keepPromises(): void {
    for (const { ask, sponsor, counts } of this.asks) {
      if (sponsor === NONE) continue;
      const open = this.free.filter((place) => counts[place] === 1 && this.mayStand(place, sponsor));
      const missing = Math.max(0, ask.count - this.countFor({ sponsor, counts }));
      for (let n = 0; n < missing; n++) {
        // Spread over the day: the n-th near its share of the slots, where nothing is in its way first.
        const ideal = ((n + 0.5) * open.length) / missing;
        const cost = open.map(
          (place, index) => Math.abs(index + 0.5 - ideal) + this.bars(place, sponsor) * open.length,
        );
        const order = open.map((_, index) => index).sort((a, b) => elementAt(cost, a) - elementAt(cost, b));
        if (!this.augment({ sponsor, places: order.map((index) => elementAt(open, index)) }, new Set())) {
          this.withoutSlot += missing - n;
          break;
        }
      }
    }
  }

  /** Gives a unit a slot of its own, moving others along (augmenting paths; Kuhn 1955). */
  private augment(unit: Unit, tried: Set<number>): boolean {
    const room = unit.places.find((place) => !tried.has(place) && this.unitAt[place] === null);
    if (room !== undefined) return this.put(room, unit);
    for (const place of unit.places) {
      if (tried.has(place)) continue;
      tried.add(place);
      const other = elementAt(this.unitAt, place);
      if (other && this.augment(other, tried)) return this.put(place, unit);
    }
    return false;
  }

  private put(place: number, unit: Unit): true {
    this.at[place] = unit.sponsor;
    this.unitAt[place] = unit;
    return true;
  }

  private mayStand(place: number, sponsor: number): boolean {
    return elementAt(this.slots, place).messages.has(elementAt(this.keys, sponsor));
  }

  private countFor({ sponsor, counts }: Pick<BoardAsk, 'sponsor' | 'counts'>): number {
    let count = 0;
    this.at.forEach((one, place) => (count += one === sponsor && one !== NONE && counts[place] === 1 ? 1 : 0));
    return count;
  }

  /** Gives what is left to those to whom nothing is promised, the one that played least first. */
  fillTheRest(): void {
    const plays = this.playsOfSponsors();
    const isPromised = (sponsor: number): boolean => elementAt(this.asksOf, sponsor).length > 0;
    for (const place of this.free) {
      if (this.at[place] !== NONE) continue;
      const all = this.keys.flatMap((_, sponsor) => (this.mayStand(place, sponsor) ? [sponsor] : []));
      const others = all.filter((sponsor) => !isPromised(sponsor));
      const rank = (sponsor: number): number => {
        const messages = elementAt(this.slots, place).messages.get(elementAt(this.keys, sponsor))?.length ?? 1;
        return this.bars(place, sponsor) * 1e6 + elementAt(plays, sponsor) / messages;
      };
      const [first, ...rest] = others.length > 0 ? others : all;
      if (first === undefined) continue;
      const best = rest.reduce((one, other) => (rank(other) < rank(one) ? other : one), first);
      this.at[place] = best;
      plays[best] = elementAt(plays, best) + 1;
    }
    this.isFilling = false;
  }

  /**
   * By sponsor, how often it played in the weeks before and stands in the log. One that has not played begins level with
   * the others, not behind them.
   */
  private playsOfSponsors(): number[] {
    const past = this.model.playsBefore(this.log.hours[0]?.startMs ?? 0);
    const plays = this.keys.map((key) => {
      const ids = new Set(this.slots.flatMap(({ messages }) => messages.get(key) ?? []));
      return [...ids].reduce((sum, id) => sum + (past.get(id)?.length ?? 0), 0);
    });
    const played = plays.filter((count) => count > 0);
    const level = played.length === 0 ? 0 : played.reduce((sum, count) => sum + count, 0) / played.length;
    const begun = plays.map((count) => (count === 0 ? level : count));
    for (const sponsor of this.at) if (sponsor !== NONE) begun[sponsor] = elementAt(begun, sponsor) + 1;
    return begun;
  }

  /** Exchanges at random what stands in each other's way (simulated annealing; Kirkpatrick, Gelatt and Vecchi 1983). */
  anneal(): void {
    const random = new Random(SEED);
    const least = UNKEPT * this.withoutSlot;
    const size = this.free.length;
    let wrong: readonly number[] = [];
    let cost = this.cost();
    let best = { cost, at: this.at.slice() };
    for (let step = 0; step < MOST_STEPS && best.cost > least; step++) {
      if (step % LOOK_AGAIN === 0) {
        wrong = this.free.flatMap((place, n) => (this.isBarred(place) ? [n] : []));
        // Changes are weighed where they are made, which is near enough for a while.
        cost = this.cost();
      }
      // What stands in the way is moved first, as often as not to a slot nearby.
      const from =
        wrong.length > 0 && random.below(3) > 0 ? elementAt(wrong, random.below(wrong.length)) : random.below(size);
      const to = random.below(2) > 0 ? random.below(size) : from + random.below(2 * NEARBY + 1) - NEARBY;
      const [one, other] = [this.free[from], this.free[to]];
      if (one === undefined || other === undefined) continue;
      const [own, theirs] = [this.at[one]!, this.at[other]!];
      if (own === theirs || own === NONE || theirs === NONE) continue;
      if (!this.mayStand(one, theirs) || !this.mayStand(other, own)) continue;
      const change = this.exchange(one, other);
      if (change <= HOTTEST * (1 - step / MOST_STEPS) ** 2 * random.exponential()) cost += change;
      else this.exchange(one, other);
      if (cost < best.cost) cost = this.cost();
      if (cost < best.cost) best = { cost, at: this.at.slice() };
    }
    this.at.set(best.at);
  }

  private isBarred(place: number): boolean {
    return this.at[place] !== NONE && this.bars(place, this.at[place]!) > 0;
  }

  /** Exchanges the sponsors of two slots; returns by how much the cost grows. */
  private exchange(one: number, other: number): number {
    const [own, theirs] = [this.at[one]!, this.at[other]!];
    const asks = [...elementAt(this.asksOf, own), ...elementAt(this.asksOf, theirs)].filter(
      ({ counts }) => counts[one] !== counts[other],
    );
    const cost = (): number =>
      // What is in each other's way is so from both sides.
      2 * BAR * (this.bars(one, this.at[one]!) + this.bars(other, this.at[other]!)) +
      UNKEPT * unkept(asks.map((ask) => this.missing(ask)));
    const before = cost();
    this.at[one] = theirs;
    this.at[other] = own;
    return cost() - before;
  }

  private missing(ask: BoardAsk): number {
    return Math.max(0, ask.ask.count - this.countFor(ask));
  }

  /** What is in each other's way, and promises that are not kept; 0 where nothing is left to mend. */
  private cost(): number {
    let bars = 0;
    this.at.forEach((sponsor, place) => (bars += sponsor === NONE ? 0 : this.bars(place, sponsor)));
    return BAR * bars + UNKEPT * unkept(this.asks.map((ask) => this.missing(ask)));
  }

  /** A slot whose sponsor is still in another's way stands open, the later of the two. */
  openWhatIsBarred(): void {
    for (const place of this.free.toReversed()) {
      const sponsor = this.at[place]!;
      if (sponsor !== NONE && this.bars(place, sponsor) > 0) this.at[place] = NONE;
    }
  }

  /** How many things are in the way of a sponsor in a slot. */
  private bars(place: number, sponsor: number): number {
    const slot = elementAt(this.slots, place);
    let bars = this.barredBySpot.get(place)!.has(elementAt(this.keys, sponsor)) ? 1 : 0;
    if (this.keys.length > 1) for (const step of [-1, 1]) if (this.neighbour(place, step) === sponsor) bars++;
    const product = this.products[sponsor]!;
    let inHour = 0;
    for (const step of [-1, 1])
      for (let n = place + step; n >= 0 && n < this.slots.length; n += step) {
        const other = elementAt(this.slots, n);
        const [near, sameHour] = [this.isNear(other, slot), other.hourIndex === slot.hourIndex];
        if (!near && !sameHour) break;
        const theirs = this.at[n]!;
        if (theirs === NONE) continue;
        if (sameHour && theirs === sponsor) inHour++;
        if (near && product !== NONE && theirs !== sponsor && this.products[theirs] === product) bars++;
      }
    return bars + Math.max(0, inHour + 1 - this.mostPerHour);
  }

  /** Of one block without a song between, or too near in time. */
  private isNear(
    a: { readonly startMs: number; readonly block: number },
    b: { readonly startMs: number; readonly block: number },
  ): boolean {
    return a.block === b.block || Math.abs(a.startMs - b.startMs) < this.apartMs;
  }

  /** The sponsor of the next slot in a direction that holds one, or will. */
  private neighbour(place: number, step: number): number {
    for (let n = place + step; n >= 0 && n < this.at.length; n += step) {
      if (this.at[n] !== NONE) return this.at[n]!;
      if (this.isFilling && this.isFree[n] && elementAt(this.slots, n).messages.size > 0) return NONE;
    }
    return NONE;
  }

  /** The ask that a message in a slot counts for, with how many count for it; undefined for none. */
  askAt(place: number): KeptAsk | undefined {
    const own = this.asks.find(({ sponsor, counts }) => sponsor === this.at[place] && counts[place] === 1);
    return own && this.keptAsk(own);
  }

  keptAsks(): KeptAsk[] {
    return this.asks.map((one) => this.keptAsk(one));
  }

  private keptAsk(one: BoardAsk): KeptAsk {
    return { ...one.ask, placed: this.countFor(one), slots: one.counts.reduce((sum, counts) => sum + counts, 0) };
  }
}

function unkept(missing: readonly number[]): number {
  return missing.reduce((sum, one) => sum + one, 0);
}

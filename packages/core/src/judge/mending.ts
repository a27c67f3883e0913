import { elementAt } from '../values/look-up.js';
import type { Assignment } from '../engine/model/assignment.js';
import { clashesOf } from '../engine/proof/explain.js';
import type { LogHour } from '../log/daily-log.js';

/** What breaks go away, musts and wishes; less than nothing where more come than go. */
export interface Gain {
  readonly musts: number;
  readonly wishes: number;
}

/** Two slots whose items could change places. */
export interface SwapPartner {
  readonly withId: string;
  readonly gain: Gain;
}

/** One edit that mends something: an item put into a slot, or two slots that change items. */
export interface Mend {
  readonly entryId: string;
  readonly edit:
    { readonly type: 'replace'; readonly itemId: string } | { readonly type: 'swap'; readonly withId: string };
  /** Whether an open slot is filled by it. */
  readonly fills: boolean;
  readonly gain: Gain;
}

const NOTHING: Gain = { musts: 0, wishes: 0 };

/** Looks for edits by which a log breaks less at the times it airs now; an edit moves these a little. The assignment stands as it stood when each call returns. */
export class Mending {
  private readonly positionOf: ReadonlyMap<string, number>;

  /** `mayChange` tells of an entry whether it is still to be changed: what has aired is not. */
  constructor(
    private readonly assignment: Assignment,
    private readonly mayChange: (entryId: string) => boolean = () => true,
  ) {
    const { compiled, history } = assignment;
    this.positionOf = new Map(compiled.instance.slots.map(({ id }, s) => [id, history + s]));
  }

  /** The slots of the same category a slot could change items with, those that mend most first; only what mends at all. */
  swapsOf(entryId: string): SwapPartner[] {
    const p = this.freeAt(entryId);
    if (p === null || elementAt(this.assignment.itemAt, p) < 0) return [];
    const { compiled, history, itemAt } = this.assignment;
    const pool = elementAt(compiled.poolOf, p - history);
    const found: SwapPartner[] = [];
    for (const [withId, q] of this.positionOf) {
      if (q === p || elementAt(itemAt, q) < 0 || compiled.poolOf[q - history] !== pool) continue;
      if (this.freeAt(withId) === null) continue;
      const gain = this.gainOfSwap(p, q);
      if (gain && isBetter(gain, NOTHING)) found.push({ withId, gain });
    }
    // Of those that mend alike the nearest, so that the day changes least.
    const far = ({ withId }: SwapPartner): number => Math.abs((this.positionOf.get(withId) ?? p) - p);
    return found.sort((a, b) => (isBetter(a.gain, b.gain) ? -1 : isBetter(b.gain, a.gain) ? 1 : far(a) - far(b)));
  }

  /** Edits within an hour that mend something, those that mend most first: one fills what is open without a break, or takes breaks away. */
  mendsIn(hour: LogHour): Mend[] {
    const mends: Mend[] = [];
    for (const { id: entryId } of hour.entries) {
      const p = this.freeAt(entryId);
      if (p === null) continue;
      const isOpen = elementAt(this.assignment.itemAt, p) < 0;
      if (!isOpen && !isBetter(this.breaksAt(p), NOTHING)) continue;
      const replaced = this.bestReplacement(entryId, p, isOpen);
      const [swap] = isOpen || replaced?.gain.musts === this.breaksAt(p).musts ? [] : this.swapsOf(entryId);
      const swapped: Mend | null = swap
        ? { entryId, edit: { type: 'swap', withId: swap.withId }, fills: false, gain: swap.gain }
        : null;
      mends.push(...[replaced, swapped].filter((one) => one !== null));
    }
    return mends.sort((a, b) => (mendsMore(a, b) ? -1 : mendsMore(b, a) ? 1 : 0));
  }

  private bestReplacement(entryId: string, p: number, isOpen: boolean): Mend | null {
    const { assignment } = this;
    const { compiled, history } = assignment;
    const held = elementAt(assignment.itemAt, p);
    const now = isOpen ? NOTHING : this.breaksAt(p);
    if (!isOpen) assignment.lift(p);
    let best: Mend | null = null;
    for (const item of elementAt(compiled.domains, p - history)) {
      if (item === held) continue;
      const breaks = this.breaksOf(p, item);
      const gain = { musts: now.musts - breaks.musts, wishes: now.wishes - breaks.wishes };
      if (isOpen ? breaks.musts > 0 : !isBetter(gain, NOTHING)) continue;
      const itemId = elementAt(compiled.itemIds, item);
      const mend: Mend = { entryId, edit: { type: 'replace', itemId }, fills: isOpen, gain };
      if (!best || mendsMore(mend, best)) best = mend;
    }
    if (!isOpen) assignment.put(p, held);
    return best;
  }

  private gainOfSwap(p: number, q: number): Gain | null {
    const { assignment } = this;
    const { compiled, history } = assignment;
    const [one, other] = [elementAt(assignment.itemAt, p), elementAt(assignment.itemAt, q)];
    if (one === other) return null;
    const fits = (at: number, item: number): boolean => elementAt(compiled.domains, at - history).includes(item);
    if (!fits(p, other) || !fits(q, one)) return null;
    assignment.lift(p);
    assignment.lift(q);
    const before = this.breaksTogether(p, one, q, other);
    const after = this.breaksTogether(p, other, q, one);
    assignment.put(p, one);
    assignment.put(q, other);
    return { musts: before.musts - after.musts, wishes: before.wishes - after.wishes };
  }

  /** What two items break in two open positions. */
  private breaksTogether(p: number, atP: number, q: number, atQ: number): Gain {
    const first = this.breaksOf(p, atP);
    this.assignment.put(p, atP);
    const second = this.breaksOf(q, atQ);
    this.assignment.lift(p);
    return { musts: first.musts + second.musts, wishes: first.wishes + second.wishes };
  }

  private breaksAt(p: number): Gain {
    const held = elementAt(this.assignment.itemAt, p);
    this.assignment.lift(p);
    const breaks = this.breaksOf(p, held);
    this.assignment.put(p, held);
    return breaks;
  }

  private breaksOf(p: number, item: number): Gain {
    const found = clashesOf(this.assignment, p, item, true);
    const musts = found.filter(({ hard }) => hard).length;
    return { musts, wishes: found.length - musts };
  }

  /** The position of a slot a person may change; null where it is locked, or no slot. */
  private freeAt(entryId: string): number | null {
    const p = this.positionOf.get(entryId);
    const isFree = p !== undefined && this.assignment.sequence.fixed[p] === 0 && this.mayChange(entryId);
    return isFree ? p : null;
  }
}

function isBetter(a: Gain, b: Gain): boolean {
  return a.musts > b.musts || (a.musts === b.musts && a.wishes > b.wishes);
}

/** A slot filled counts as a must that is kept again. */
function mendsMore(a: Mend, b: Mend): boolean {
  const worth = ({ fills, gain }: Mend): Gain => ({ musts: gain.musts + (fills ? 1 : 0), wishes: gain.wishes });
  return isBetter(worth(a), worth(b));
}

import { tooSoonBy } from '../rules/apart.js';
import type { Compiled, CompiledRule } from './compile.js';

/** One play on the timeline: a filled slot, or history with slot -1. */
export interface Play {
  readonly item: number;
  readonly slot: number;
  readonly start: number;
  readonly end: number;
}

/** Two plays of one value that stand too close; charged to the later one. */
export interface Clash {
  readonly rule: number;
  readonly earlier: Play;
  readonly later: Play;
  readonly by: number;
}

/**
 * The plays of a solution under construction, kept per rule and value in order of time, so that a
 * candidate is judged by its neighbours alone.
 */
export class Timeline {
  /** Per rule and value, plays by start. */
  private readonly occurrences: Play[][][];
  /** Per item, plays by start. */
  private readonly plays: Play[][];
  readonly assigned: Int32Array;
  evaluations = 0;

  constructor(readonly compiled: Compiled) {
    this.occurrences = compiled.rules.map((rule) => Array.from({ length: rule.values }, () => []));
    this.plays = compiled.itemIds.map(() => []);
    this.assigned = new Int32Array(compiled.slotStart.length).fill(-1);
    this.addHistory();
  }

  /** History comes sorted, so it is appended; plays too old for any rule are kept for their rest alone. */
  private addHistory(): void {
    const { compiled } = this;
    const longest = compiled.rules.reduce((most, rule) => rule.secondsAt.reduce((a, b) => Math.max(a, b), most), 0);
    const firstStart = compiled.slotStart[0] ?? 0;
    compiled.historyItem.forEach((item, index) => {
      const start = compiled.historyStart[index]!;
      const play = { item, slot: -1, start, end: start + compiled.duration[item]! };
      this.plays[item]!.push(play);
      if (play.end + longest > firstStart) this.eachList(-1, item, (list) => list.push(play));
    });
  }

  assign(slot: number, item: number): void {
    this.assigned[slot] = item;
    this.add(this.playOf(slot, item));
  }

  clear(slot: number): void {
    const item = this.assigned[slot]!;
    if (item < 0) return;
    this.assigned[slot] = -1;
    const drop = (list: Play[]): void => {
      list.splice(
        list.findIndex((play) => play.slot === slot),
        1,
      );
    };
    drop(this.plays[item]!);
    this.eachList(slot, item, drop);
  }

  /** Moves a slot, and the play in it, to another start; seconds. */
  retime(slot: number, start: number): void {
    if (this.compiled.slotStart[slot] === start) return;
    const item = this.assigned[slot]!;
    this.clear(slot);
    this.compiled.slotStart[slot] = start;
    if (item >= 0) this.assign(slot, item);
  }

  /** Every clash a candidate would have in a slot, at most `most` of them. */
  clashes(slot: number, item: number, most = Number.POSITIVE_INFINITY): Clash[] {
    this.evaluations++;
    const play = this.playOf(slot, item);
    const found: Clash[] = [];
    this.compiled.rules.forEach((rule, ruleIndex) => {
      if (rule.exemptAt[slot]) return;
      for (const value of rule.valuesOf[item]!) {
        this.clashesOfValue(rule, ruleIndex, this.occurrences[ruleIndex]![value]!, play, found, most);
        if (found.length >= most) return;
      }
    });
    return found;
  }

  /** Start of the item's play before a time, seconds; null without one. */
  lastPlayBefore(item: number, start: number): number | null {
    const list = this.plays[item]!;
    const place = lowerBound(list, start);
    return place > 0 ? list[place - 1]!.start : null;
  }

  /** Start of the item's play at or after a time, seconds; null without one. */
  nextPlayFrom(item: number, start: number): number | null {
    return this.plays[item]![lowerBound(this.plays[item]!, start)]?.start ?? null;
  }

  playsOf(item: number): readonly Play[] {
    return this.plays[item]!;
  }

  private playOf(slot: number, item: number): Play {
    const start = this.compiled.slotStart[slot]!;
    return { item, slot, start, end: start + this.compiled.duration[item]! };
  }

  private add(play: Play): void {
    insertSorted(this.plays[play.item]!, play);
    this.eachList(play.slot, play.item, (list) => insertSorted(list, play));
  }

  private eachList(slot: number, item: number, visit: (list: Play[]) => void): void {
    this.compiled.rules.forEach((rule, index) => {
      if (slot >= 0 && rule.exemptAt[slot]) return;
      for (const value of rule.valuesOf[item]!) visit(this.occurrences[index]![value]!);
    });
  }

  private clashesOfValue(
    rule: CompiledRule,
    ruleIndex: number,
    list: readonly Play[],
    play: Play,
    found: Clash[],
    most: number,
  ): void {
    const place = lowerBound(list, play.start);
    const asked = rule.secondsAt[play.slot]!;
    // Lengths differ, so an earlier start may end later: look back as long as one could still reach.
    for (let i = place - 1; i >= 0 && found.length < most; i--) {
      const earlier = list[i]!;
      const by = tooSoonBy(earlier, play.start, asked);
      if (by > 0) found.push({ rule: ruleIndex, earlier, later: play, by });
      else break;
    }
    for (let i = place; i < list.length && found.length < most; i++) {
      const later = list[i]!;
      if (later.slot < 0 || later.slot === play.slot) continue;
      const by = tooSoonBy(play, later.start, rule.secondsAt[later.slot]!);
      if (by > 0) found.push({ rule: ruleIndex, earlier: play, later, by });
      else break;
    }
  }
}

function lowerBound(list: readonly Play[], start: number): number {
  let low = 0;
  let high = list.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (list[middle]!.start < start) low = middle + 1;
    else high = middle;
  }
  return low;
}

function insertSorted(list: Play[], play: Play): void {
  list.splice(lowerBound(list, play.start), 0, play);
}

import type { SequenceParts } from './parts.js';
import { CellCounts } from './cell-counts.js';
import { Occurrences } from './occurrences.js';
import type { Sequence } from './sequence.js';
import { tagIndex, type TagIndex } from './tag-index.js';
import { View } from './view.js';

/** A part of the state that follows every play put in or taken out. */
export interface Index {
  insert(p: number, item: number): void;
  remove(p: number, item: number): void;
}

/** What an evaluator of a rule is made from; parts that several rules need are shared. */
export class RuleContext {
  readonly indexes: Index[] = [];
  private readonly views = new Map<string, View>();
  private readonly occurrences = new Map<string, Occurrences>();
  private readonly counts = new Map<string, CellCounts>();
  /** The hours that have slots, numbered from 0; -1 for history before them. */
  readonly hours: { readonly cell: Int32Array; readonly cells: number };
  private readonly slotsNaming: Readonly<Record<'exempt' | 'uncharged', ReadonlyMap<string, readonly number[]>>>;

  constructor(
    readonly parts: SequenceParts,
    readonly sequence: Sequence,
  ) {
    this.hours = numberHours(sequence);
    this.slotsNaming = { exempt: slotsByRule(parts, 'exempt'), uncharged: slotsByRule(parts, 'uncharged') };
  }

  tags(tag: string): TagIndex {
    return tagIndex(this.parts.items, tag);
  }

  view(ruleId: string): View {
    const key = this.exemptKey(ruleId);
    let view = this.views.get(key);
    if (!view) {
      const visible = new Uint8Array(this.sequence.length).fill(1);
      for (const slot of this.slotsNaming.exempt.get(ruleId) ?? []) visible[this.sequence.history + slot] = 0;
      view = this.register(new View(visible));
      this.views.set(key, view);
    }
    return view;
  }

  /** 1 where a play can be charged with a break of the rule. */
  charged(ruleId: string): Uint8Array {
    const charged = this.sequence.isSlot.slice();
    for (const way of ['exempt', 'uncharged'] as const) {
      for (const slot of this.slotsNaming[way].get(ruleId) ?? []) charged[this.sequence.history + slot] = 0;
    }
    return charged;
  }

  occurrencesOf(ruleId: string, tag: string): Occurrences {
    const key = JSON.stringify([tag, this.exemptKey(ruleId)]);
    let found = this.occurrences.get(key);
    if (!found) {
      found = this.register(new Occurrences(this.tags(tag), this.view(ruleId).visible));
      this.occurrences.set(key, found);
    }
    return found;
  }

  /** Visible plays by (value, hour). */
  hourCounts(ruleId: string, tag: string): CellCounts {
    const key = JSON.stringify([tag, this.exemptKey(ruleId)]);
    let found = this.counts.get(key);
    if (!found) {
      const tags = this.tags(tag);
      const { visible } = this.view(ruleId);
      const { cell, cells } = this.hours;
      const made = new CellCounts(tags.names.length, cells);
      const tell = (p: number, item: number, by: number): void => {
        if (visible[p] === 0 || cell[p]! < 0) return;
        for (let k = tags.first[item]!; k < tags.first[item + 1]!; k++) made.add(tags.values[k]!, cell[p]!, by);
      };
      this.register({ insert: (p, item) => tell(p, item, 1), remove: (p, item) => tell(p, item, -1) });
      this.counts.set(key, (found = made));
    }
    return found;
  }

  register<T extends Index>(index: T): T {
    this.indexes.push(index);
    return index;
  }

  private exemptKey(ruleId: string): string {
    return (this.slotsNaming.exempt.get(ruleId) ?? []).join(' ');
  }
}

function slotsByRule(parts: SequenceParts, way: 'exempt' | 'uncharged'): Map<string, number[]> {
  const found = new Map<string, number[]>();
  parts.slots.forEach((slot, index) => {
    for (const rule of new Set(slot[way] ?? [])) {
      const slots = found.get(rule);
      if (slots) slots.push(index);
      else found.set(rule, [index]);
    }
  });
  return found;
}

function numberHours({ history, length, hour }: Sequence): { cell: Int32Array; cells: number } {
  const numbers = new Map<number, number>();
  for (let p = history; p < length; p++) if (!numbers.has(hour[p]!)) numbers.set(hour[p]!, numbers.size);
  return { cell: hour.map((one) => numbers.get(one) ?? -1), cells: numbers.size };
}

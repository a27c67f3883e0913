import { elementAt, lookUp, lookUpIn } from '@fuller/core';
import type { Instance, InstanceRule } from '@fuller/core';
import loadHighs from 'highs';

export interface ExactResult {
  /** Open slots, then breaks by rank, as far as they were proven. */
  readonly levels: readonly number[];
  readonly seconds: number;
  readonly complete: boolean;
}

/** A linear expression: coefficients by variable, and a constant. */
interface Expression {
  readonly terms: Map<string, number>;
  constant: number;
}

/**
 * The optimum of a small instance, level by level, by mixed integer programming. Made for instances of the families: no
 * locks, exemptions or uncharged slots, and, as streaks and hand-offs are counted between neighbours, exact in
 * the soft ranks only when no slot stays open.
 */
export async function solveExactly(instance: Instance, secondsAllowed: number): Promise<ExactResult> {
  const highs = await loadHighs();
  const model = new Model(instance);
  const levels: number[] = [];
  const startedAt = performance.now();
  const spent = (): number => (performance.now() - startedAt) / 1000;
  for (const objective of model.objectives()) {
    if (levels.length > 0 && elementAt(levels, 0) > 0) return { levels, seconds: spent(), complete: true };
    const answer = highs.solve(model.text(objective), {
      time_limit: Math.max(1, secondsAllowed - spent()),
      mip_rel_gap: 0,
    });
    if (answer.Status !== 'Optimal') return { levels, seconds: spent(), complete: false };
    const best = Math.round(answer.ObjectiveValue);
    levels.push(best);
    model.fix(objective, best);
  }
  return { levels, seconds: spent(), complete: true };
}

class Model {
  private readonly lines: string[] = [];
  private readonly binaries = new Set<string>();
  private readonly general = new Set<string>();
  private readonly costs = new Map<number, Map<string, number>>();
  private readonly items;
  private names = 0;

  constructor(private readonly instance: Instance) {
    this.items = new Map(instance.items.map((item, i) => [item.id, { ...item, index: i }]));
    instance.slots.forEach((_, s) => {
      const terms = this.domain(s).map((id) => this.variable(s, id));
      this.lines.push(`${[...terms, `o${s}`].join(' + ')} = 1`);
      this.binaries.add(`o${s}`);
    });
    for (const rule of instance.rules) this.addRule(rule);
  }

  /** Open slots, then each rank. */
  objectives(): Map<string, number>[] {
    const open = new Map(this.instance.slots.map((_, s) => [`o${s}`, 1]));
    return [open, ...[...this.costs].sort(([a], [b]) => a - b).map(([, terms]) => terms)];
  }

  fix(objective: ReadonlyMap<string, number>, value: number): void {
    if (objective.size > 0) this.lines.push(`${written(objective)} <= ${value}`);
  }

  text(objective: ReadonlyMap<string, number>): string {
    const rows = this.lines.map((line, i) => ` c${i}: ${line}`).join('\n');
    const goal = objective.size > 0 ? written(objective) : '0 o0';
    return `Minimize\n obj: ${goal}\nSubject To\n${rows}\nBinary\n ${[...this.binaries].join('\n ')}\nGeneral\n ${[...this.general].join('\n ')}\nEnd\n`;
  }

  private domain(s: number): string[] {
    const slot = elementAt(this.instance.slots, s);
    return lookUpIn(this.instance.pools, slot.pool).items.filter((id) => !slot.allow || slot.allow.includes(id));
  }

  private variable(s: number, id: string): string {
    const name = `x${s}_${lookUp(this.items, id).index}`;
    this.binaries.add(name);
    return name;
  }

  private tagsOf(id: string, tag: string): readonly string[] {
    return this.items.get(id)?.tags[tag] ?? [];
  }

  /** Whether the slot has the value: a sum over the items that would. */
  private has(s: number, tag: string, value: string): Expression {
    const terms = new Map(
      this.domain(s)
        .filter((id) => this.tagsOf(id, tag).includes(value))
        .map((id) => [this.variable(s, id), 1]),
    );
    return { terms, constant: 0 };
  }

  private valuesOf(rule: InstanceRule): string[] {
    if ('value' in rule && rule.value !== undefined) return [rule.value];
    const values = new Set<string>();
    this.instance.slots.forEach((_, s) =>
      this.domain(s).forEach((id) => this.tagsOf(id, rule.tag).forEach((value) => values.add(value))),
    );
    return [...values];
  }

  /** `expression` may exceed `most` only at the price of a break; a hard rule has no price. */
  private limit(rule: InstanceRule, parts: readonly Expression[], most: number, big = 1): void {
    const sum = add(parts);
    if (sum.terms.size === 0) {
      if (sum.constant <= most || rule.strength === 'hard') return;
    }
    if (rule.strength === 'hard') {
      this.lines.push(`${written(sum.terms)} <= ${most - sum.constant}`);
      return;
    }
    const broken = this.broken(rule, big === 1);
    this.lines.push(`${sum.terms.size ? written(sum.terms) : '0 o0'} - ${big} ${broken} <= ${most - sum.constant}`);
  }

  private broken(rule: InstanceRule, binary: boolean): string {
    const name = `b${this.names++}`;
    (binary ? this.binaries : this.general).add(name);
    const costs = this.costs.get(rule.rank ?? 0) ?? new Map<string, number>();
    this.costs.set(rule.rank ?? 0, costs.set(name, 1));
    return name;
  }

  private addRule(rule: InstanceRule): void {
    const { slots, history } = this.instance;
    if (rule.strength === 'soft' && !this.costs.has(rule.rank!)) this.costs.set(rule.rank!, new Map());
    const past = history.filter((play) => this.items.has(play.item)).sort((a, b) => a.start - b.start);
    switch (rule.shape) {
      case 'apart':
        return this.addApart(rule, past);
      case 'atMost':
        for (const value of this.valuesOf(rule)) {
          if (rule.window === 'hour')
            this.eachHour((in_) =>
              this.limitSum(
                rule,
                in_.map((s) => this.has(s, rule.tag, value)),
                rule.count,
              ),
            );
          else {
            slots.forEach((slot, t) => {
              const from = slot.start - Number(rule.window);
              const before = past.filter(
                (play) => play.start > from && this.tagsOf(play.item, rule.tag).includes(value),
              ).length;
              const inside = slots.flatMap((other, s) =>
                s < t && other.start > from ? [this.has(s, rule.tag, value)] : [],
              );
              const here = this.has(t, rule.tag, value);
              if (here.terms.size === 0) return;
              const most = inside.length + before;
              if (most < rule.count) return;
              // Counts only where the value plays: a sum of all others up to the most there can be is free otherwise.
              const scaled = {
                terms: new Map([...here.terms].map(([name]) => [name, most - rule.count + 1])),
                constant: 0,
              };
              this.limit(
                rule,
                [...inside, scaled, { terms: new Map(), constant: before }],
                most,
                most - rule.count + 1,
              );
            });
          }
        }
        return;
      case 'streak':
        for (const value of this.valuesOf(rule)) {
          slots.forEach((_, t) => {
            const run: Expression[] = [];
            for (let back = 0; back <= rule.max; back++) run.push(this.at(t - back, past, rule.tag, value));
            this.limit(rule, run, rule.max);
          });
        }
        return;
      case 'handOff':
        slots.forEach((_, t) =>
          this.limit(rule, [this.at(t - 1, past, rule.tag, rule.from), this.has(t, rule.tag, rule.to)], 1),
        );
        return;
      case 'atLeast':
        for (const value of this.valuesOf(rule)) {
          this.eachHour((in_) => {
            const sum = add(in_.map((s) => this.has(s, rule.tag, value)));
            const missing = this.broken(rule, false);
            this.lines.push(`${sum.terms.size ? `${written(sum.terms)} + ` : ''}${missing} >= ${rule.count}`);
          });
        }
        return;
      case 'otherHour':
        slots.forEach((slot, t) => {
          for (const id of this.domain(t)) {
            const met = this.tagsOf(id, rule.tag).filter((value) =>
              past.some((play) => {
                const hour = Math.floor(play.start / 3600);
                const day = Math.floor(hour / 24);
                const same =
                  hour - day * 24 === slot.hour % 24 &&
                  day < Math.floor(slot.hour / 24) &&
                  day >= Math.floor(slot.hour / 24) - rule.days;
                return same && this.tagsOf(play.item, rule.tag).includes(value);
              }),
            );
            for (let n = 0; n < met.length; n++)
              this.limit(rule, [{ terms: new Map([[this.variable(t, id), 1]]), constant: 0 }], 0);
          }
        });
        return;
      case 'across':
        slots.forEach((slot, t) => {
          for (const id of this.domain(t)) {
            const end = slot.start + this.items.get(id)!.duration;
            const near = rule.plays.some(
              (play) =>
                play.start < end + rule.seconds &&
                slot.start < play.end + rule.seconds &&
                play.values.some(
                  (value) =>
                    (rule.value === undefined || rule.value === value) && this.tagsOf(id, rule.tag).includes(value),
                ),
            );
            if (near) this.limit(rule, [{ terms: new Map([[this.variable(t, id), 1]]), constant: 0 }], 0);
          }
        });
    }
  }

  private limitSum(rule: InstanceRule, parts: readonly Expression[], most: number): void {
    const sum = add(parts);
    if (sum.terms.size === 0) return;
    if (rule.strength === 'hard') this.lines.push(`${written(sum.terms)} <= ${most - sum.constant}`);
    else this.lines.push(`${written(sum.terms)} - ${this.broken(rule, false)} <= ${most - sum.constant}`);
  }

  /** Whether a place in the sequence has a value: of a slot, or before the first of history. */
  private at(t: number, past: Instance['history'], tag: string, value: string): Expression {
    if (t >= 0) return this.has(t, tag, value);
    const play = past[past.length + t];
    return { terms: new Map(), constant: play && this.tagsOf(play.item, tag).includes(value) ? 1 : 0 };
  }

  private eachHour(visit: (slots: number[]) => void): void {
    const hours = new Map<number, number[]>();
    this.instance.slots.forEach((slot, s) => hours.set(slot.hour, [...(hours.get(slot.hour) ?? []), s]));
    for (const slots of hours.values()) visit(slots);
  }

  private addApart(rule: Extract<InstanceRule, { shape: 'apart' }>, past: Instance['history']): void {
    const { slots } = this.instance;
    slots.forEach((slot, t) => {
      const asked = rule.secondsByPool?.[slot.pool] ?? rule.seconds;
      const broken = rule.strength === 'soft' ? this.broken(rule, true) : null;
      const price = broken ? ` - ${broken}` : '';
      for (const id of this.domain(t)) {
        const tooSoon = this.tagsOf(id, rule.tag).some((value) => {
          const last = past.findLast((play) => this.tagsOf(play.item, rule.tag).includes(value));
          return last && slot.start - (last.start + lookUp(this.items, last.item).duration) < asked;
        });
        if (tooSoon) this.lines.push(`${this.variable(t, id)}${price} <= 0`);
      }
      for (let s = t - 1; s >= 0; s--) {
        for (const id of this.domain(s)) {
          if (slot.start - (elementAt(slots, s).start + lookUp(this.items, id).duration) >= asked) continue;
          for (const value of this.tagsOf(id, rule.tag)) {
            const later = this.has(t, rule.tag, value);
            if (later.terms.size > 0) this.lines.push(`${this.variable(s, id)} + ${written(later.terms)}${price} <= 1`);
          }
        }
      }
    });
  }
}

function add(parts: readonly Expression[]): Expression {
  const sum: Expression = { terms: new Map(), constant: 0 };
  for (const { terms, constant } of parts) {
    sum.constant += constant;
    for (const [name, coefficient] of terms) sum.terms.set(name, (sum.terms.get(name) ?? 0) + coefficient);
  }
  return sum;
}

/** Lines of the LP format may not grow without end. */
function written(terms: ReadonlyMap<string, number>): string {
  return [...terms].map(([name, coefficient], i) => `${i % 20 === 19 ? '\n' : ''}${coefficient} ${name}`).join(' + ');
}

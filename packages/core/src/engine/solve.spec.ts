import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { randomInstance } from '../testing/random-instance.js';
import { recount, type Recount } from '../testing/recount.js';
import type { Instance } from './instance.js';
import type { Solution } from './solution.js';
import { solve } from './solve.js';

/** Every assignment of a small instance that breaks no hard rule, counted from scratch. */
function everyAssignment(instance: Instance): Recount[] {
  const domains = instance.slots.map((slot) => {
    if (slot.locked !== undefined) return [slot.locked];
    const items = instance.pools[slot.pool]!.items.filter((id) => !slot.allow || slot.allow.includes(id));
    return [null, ...items];
  });
  const found: Recount[] = [];
  const assignment: Record<string, string | null> = {};
  const fill = (s: number): void => {
    if (s === domains.length) {
      const counted = recount(instance, assignment);
      if (counted.hard === 0) found.push(counted);
      return;
    }
    for (const item of domains[s]!) {
      assignment[instance.slots[s]!.id] = item;
      fill(s + 1);
    }
  };
  fill(0);
  return found;
}

/** Open slots, then soft breaks by rank, as one number for each level. */
function levels(one: Pick<Recount, 'open' | 'soft'>): number[] {
  return [one.open, ...[1, 2, 3].map((rank) => one.soft[rank] ?? 0)];
}

function compare(a: readonly number[], b: readonly number[]): number {
  const level = a.findIndex((one, i) => one !== b[i]);
  return level < 0 ? 0 : a[level]! - b[level]!;
}

describe('solving', () => {
  it('finds what trying every assignment finds, and proves nothing that is not so', () => {
    let proven = 0;
    fc.assert(
      fc.property(randomInstance({ slots: 4, items: 4, history: 6 }), (instance) => {
        const all = everyAssignment(instance).map(levels).sort(compare);
        const best = all[0]!;
        const solution = solve(instance, { effort: 'quick' });
        expect(levels(solution.score)).toEqual(best);
        expect(solution.bound.open).toBeLessThanOrEqual(best[0]!);
        const asGood = (level: number): number[][] =>
          all.filter((one) => one.slice(0, level).join() === best.slice(0, level).join());
        for (const [rank, least] of Object.entries(solution.bound.soft)) {
          const level = Number(rank);
          expect(least).toBeLessThanOrEqual(Math.min(...asGood(level).map((one) => one[level]!)));
        }
        for (const open of solution.open) {
          if (open.proof === 'proven') {
            expect(solution.score.open).toBe(best[0]);
            proven++;
          }
        }
      }),
      { numRuns: 400 },
    );
    expect(proven).toBeGreaterThan(20);
  });

  it('is brought to the best there is by conflict learning alone, with every rank proven', () => {
    fc.assert(
      fc.property(randomInstance({ slots: 5, items: 5, history: 6 }), (instance) => {
        const best = everyAssignment(instance).map(levels).sort(compare)[0]!;
        // A single evaluation: all that is better than the first filling comes from learning.
        const { score, bound } = solve(instance, { evaluations: 1, conflicts: 20_000, explain: 'none' });
        expect(levels(score)).toEqual(best);
        expect(levels({ open: bound.open, soft: { ...score.soft, ...bound.soft } })).toEqual(best);
      }),
      { numRuns: 3000 },
    );
  });

  it('counts what fixed plays break side by side as what no log is without, and not what could be parted', () => {
    const items = ['low', 'low', 'high'].map((voice, i) => ({ id: `i${i}`, duration: 200, tags: { voice: [voice] } }));
    const withLocks = (locked: Readonly<Record<number, string>>): Instance => ({
      format: 'fuller-instance',
      version: 1,
      items,
      pools: { A: { items: ['i0', 'i1', 'i2'], order: 'even' } },
      slots: [0, 1, 2].map((s) => ({
        id: `s${s}`,
        start: s * 220,
        hour: 0,
        pool: 'A',
        ...(locked[s] ? { locked: locked[s] } : {}),
      })),
      history: [],
      rules: [
        { id: 'r1', shape: 'streak', tag: 'voice', value: 'low', max: 1, strength: 'soft', rank: 1 },
        { id: 'r2', shape: 'handOff', tag: 'voice', from: 'low', to: 'low', strength: 'soft', rank: 2 },
      ],
    });
    const bounds = (locked: Readonly<Record<number, string>>): unknown =>
      solve(withLocks(locked), { evaluations: 1, conflicts: 0, explain: 'none' }).bound.soft;
    expect(bounds({ 0: 'i0', 1: 'i1' })).toEqual({ 1: 1, 2: 1 });
    expect(bounds({ 0: 'i0', 2: 'i1' })).toEqual({ 1: 0, 2: 0 });
  });

  it('can be stopped while it learns, and says what it works on', () => {
    // Voices that must alternate and may not: hundreds of conflicts.
    const items = Array.from({ length: 18 }, (_, i) => ({
      id: `i${i}`,
      duration: 200,
      tags: { voice: [['low', 'high', 'both'][i % 3]!], artist: [`a${i % 5}`] },
    }));
    const instance: Instance = {
      format: 'fuller-instance',
      version: 1,
      items,
      pools: { A: { items: items.map(({ id }) => id), order: 'even' } },
      slots: Array.from({ length: 40 }, (_, s) => ({
        id: `s${s}`,
        start: s * 220,
        hour: Math.floor(s / 16),
        pool: 'A',
      })),
      history: [],
      rules: [
        { id: 'r1', shape: 'apart', tag: 'artist', seconds: 800, strength: 'hard' },
        { id: 'r2', shape: 'atLeast', tag: 'voice', value: 'low', count: 9, window: 'hour', strength: 'soft', rank: 1 },
        {
          id: 'r3',
          shape: 'atLeast',
          tag: 'voice',
          value: 'high',
          count: 8,
          window: 'hour',
          strength: 'soft',
          rank: 2,
        },
        { id: 'r4', shape: 'streak', tag: 'voice', max: 1, strength: 'soft', rank: 3 },
      ],
    };
    const said = new Set<string>();
    let ticks = 0;
    const { stats } = solve(instance, { evaluations: 1000, progress: (_share, doing) => said.add(doing) });
    expect([...said]).toEqual(expect.arrayContaining(['rank 3', 'even turns']));
    expect(stats.conflicts).toBeGreaterThan(200);
    const stop = (_share: number, doing: string): void => {
      if (doing.startsWith('rank') && ++ticks === 3) throw new Error('stopped');
    };
    expect(() => solve(instance, { evaluations: 1000, progress: stop })).toThrow('stopped');
    expect(ticks).toBe(3);
  });

  it('is stopped wherever it is, with the best found so far as its solution: what it was given is never made worse', () => {
    fc.assert(
      fc.property(randomInstance({ slots: 16, items: 9, history: 20 }), fc.nat(400), (instance, asks) => {
        const whole = solve(instance, { evaluations: 4000, explain: 'none' });
        let left = asks;
        const stopped = solve(instance, {
          evaluations: 4000,
          start: whole.assignment,
          isStopped: () => left-- <= 0,
        });
        const { open, soft } = recount(instance, stopped.assignment);
        const counted = Object.keys(stopped.score.soft).map((rank) => [rank, soft[rank] ?? 0]);
        expect({ open, soft: Object.fromEntries(counted) }).toEqual({
          open: stopped.score.open,
          soft: stopped.score.soft,
        });
        const levels = ({ score }: Solution): number[] => [score.open, ...Object.values(score.soft)];
        const [before, after] = [levels(whole), levels(stopped)];
        const differs = before.findIndex((one, n) => one !== after[n]);
        if (differs >= 0) expect(after[differs]).toBeLessThan(before[differs]!);
      }),
      { numRuns: 150 },
    );
  });

  it('never breaks a hard rule that need not be broken, and says of itself what a count from scratch says', () => {
    fc.assert(
      fc.property(
        randomInstance({ slots: 16, items: 9, history: 20 }),
        fc.integer({ min: 0, max: 9 }),
        (instance, seed) => {
          const solution = solve(instance, { seed, effort: 'quick', explain: 'conflicts' });
          const counted = recount(instance, solution.assignment);
          expect(counted.hard).toBe(0);
          expect(levels(solution.score)).toEqual(levels(counted));
          expect(solution.score.spread).toBeCloseTo(counted.spread, 6);
          expect(solution.score.rest).toBeCloseTo(counted.rest, 6);
          expect(solution.breaks.map((found) => `${found.rule} ${found.slot}`).sort()).toEqual(counted.breaks);
          for (const slot of instance.slots) {
            const item = solution.assignment[slot.id];
            if (slot.locked !== undefined) expect(item).toBe(slot.locked);
            else if (item !== null) {
              expect(instance.pools[slot.pool]!.items).toContain(item);
              if (slot.allow) expect(slot.allow).toContain(item);
            }
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('gives the same bytes for the same instance and seed', () => {
    fc.assert(
      fc.property(randomInstance({ slots: 16, items: 9, history: 20 }), fc.nat(), (instance, seed) => {
        const again = JSON.parse(JSON.stringify(instance)) as Instance;
        expect(JSON.stringify(solve(again, { seed, effort: 'quick' }))).toBe(
          JSON.stringify(solve(instance, { seed, effort: 'quick' })),
        );
      }),
      { numRuns: 20 },
    );
  });
});

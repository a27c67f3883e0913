import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { randomInstance } from '../testing/random-instance.js';
import { recount } from '../testing/recount.js';
import type { Instance } from './instance.js';
import { solve } from './solve.js';
import type { Solution } from './solution.js';
import type { Order } from '../sequence/orders.js';

/** A pool of items played one after another, five minutes each, with nothing but turns to mind unless rules are given. */
function station(
  items: number,
  slots: number,
  order: Order,
  more: Partial<Instance> & { weights?: Record<string, number> } = {},
): Instance {
  const { weights, ...rest } = more;
  const ids = Array.from({ length: items }, (_, i) => `i${i}`);
  return {
    format: 'fuller-instance',
    version: 1,
    items: ids.map((id, i) => ({ id, duration: 200, tags: { title: [id], artist: [`a${Math.floor(i / 2)}`] } })),
    pools: { P: { items: ids, order, ...(weights && { weights }) } },
    slots: Array.from({ length: slots }, (_, s) => ({
      id: `s${s}`,
      start: s * 300,
      hour: Math.floor(s / 12),
      pool: 'P',
    })),
    history: [],
    rules: [],
    ...rest,
  };
}

/** The instance with something fixed in every slot but one. */
function allButOneLocked(instance: Instance, n: number): Instance {
  const slots = instance.slots.map(({ allow, locked, exempt, uncharged, ...slot }, s) => {
    const { items } = instance.pools[slot.pool]!;
    void [allow, exempt, uncharged];
    return s === n % instance.slots.length ? slot : { ...slot, locked: locked ?? items[(n + s * 7) % items.length]! };
  });
  return { ...instance, slots };
}

function played(solution: Solution): string[] {
  return Object.values(solution.assignment).map((item) => item!);
}

function counts(solution: Solution): Record<string, number> {
  const found: Record<string, number> = {};
  for (const item of played(solution)) found[item] = (found[item] ?? 0) + 1;
  return found;
}

describe('an open slot', () => {
  const locked = { exempt: [] as string[] };
  const apart = { id: 'r', shape: 'apart' as const, tag: 'artist', seconds: 600, strength: 'hard' as const };
  // Two artists for every other slot fixed: the slots between cannot have either.
  const tight = station(4, 5, 'even', {
    rules: [apart],
    slots: ['i0', null, 'i2', null, 'i0'].map((item, s) => ({
      id: `s${s}`,
      start: s * 400,
      hour: 0,
      pool: 'P',
      ...locked,
      ...(item ? { locked: item } : {}),
    })),
  });
  const solution = solve(tight, { effort: 'quick' });

  it('is proven, with what holds each candidate back and a way out that works', () => {
    expect(solution.bound.open).toBe(2);
    expect(solution.open.map((open) => [open.slot, open.proof])).toEqual([
      ['s1', 'proven'],
      ['s3', 'proven'],
    ]);
    const [first] = solution.open;
    expect(first!.heldBackBy.map((held) => held.item)).toEqual(['i0', 'i1', 'i2', 'i3']);
    expect(first!.conflict).toEqual(['s0', 's2']);
    expect(first!.relax).toEqual([{ rule: 'r', to: { seconds: 150 }, fills: ['s1', 's3'] }]);
    const loosened = { ...tight, rules: [{ ...apart, seconds: 150 }] };
    expect(solve(loosened, { effort: 'quick' }).score.open).toBe(0);
  });

  it('has a conflict set that holds every candidate back and of which no part can be spared', () => {
    const narrow = [
      { id: 'r0', shape: 'apart' as const, tag: 'artist', seconds: 4000, strength: 'hard' as const },
      { id: 'r1', shape: 'atMost' as const, tag: 'voice', count: 1, window: 5000, strength: 'hard' as const },
    ];
    let checked = 0;
    fc.assert(
      fc.property(randomInstance({ slots: 9, items: 5, history: 0 }), fc.nat(), (drawn, n) => {
        const instance = allButOneLocked({ ...drawn, rules: narrow }, n);
        const { open, assignment } = solve(instance, { effort: 'quick', explain: 'conflicts' });
        for (const { slot, conflict, heldBackBy } of open) {
          if (heldBackBy.length === 0) continue;
          const alone = (ids: readonly string[]): boolean =>
            heldBackBy.every(({ item }) => {
              const kept = Object.fromEntries(ids.map((id) => [id, assignment[id]!]));
              const before = recount(instance, kept).hard;
              return recount(instance, { ...kept, [slot]: item }).hard > before;
            });
          expect(alone(conflict)).toBe(true);
          // Taking one of two plays of an artist out lets the other clash in its place.
          const artists = conflict.flatMap(
            (id) => instance.items.find((item) => item.id === assignment[id])!.tags['artist']!,
          );
          if (new Set(artists).size < artists.length) continue;
          for (const one of conflict) expect(alone(conflict.filter((id) => id !== one))).toBe(false);
          checked++;
        }
      }),
      { numRuns: 150 },
    );
    expect(checked).toBeGreaterThan(10);
  });
});

describe('turn orders', () => {
  const solved = (instance: Instance): Solution => solve(instance, { effort: 'quick' });

  it('even: over four turnovers plays differ by one at most, and none comes back long before its time', () => {
    const solution = solved(
      station(24, 96, 'even', { rules: [{ id: 'r', shape: 'apart', tag: 'artist', seconds: 900, strength: 'hard' }] }),
    );
    const plays = Object.values(counts(solution));
    expect([solution.score.open, Math.max(...plays) - Math.min(...plays)]).toEqual([0, 0]);
    expect(solution.score.rest).toBeLessThan(8);
  });

  it('even: makes up for what history gave more of', () => {
    const history = Array.from({ length: 6 }, (_, i) => ({ item: `i${i % 3}`, start: -90_000 - i * 300 }));
    expect(counts(solved(station(6, 12, 'even', { history })))).toEqual({ i0: 1, i1: 1, i2: 1, i3: 3, i4: 3, i5: 3 });
  });

  it('inOrder: goes on from the last play in history, through the list and over again', () => {
    const solution = solved(station(4, 6, 'inOrder', { history: [{ item: 'i1', start: -300 }] }));
    expect(played(solution)).toEqual(['i2', 'i3', 'i0', 'i1', 'i2', 'i3']);
  });

  it('newest: the head of the list as often as the rules allow', () => {
    const rules = [{ id: 'r', shape: 'streak' as const, tag: 'title', max: 1, strength: 'hard' as const }];
    const solution = solved(station(5, 8, 'newest', { rules }));
    expect(counts(solution)).toEqual({ i0: 4, i1: 4 });
  });

  it('weighted: plays in the ratio of the weights', () => {
    expect(counts(solved(station(3, 12, 'weighted', { weights: { i0: 4 } })))).toEqual({ i0: 8, i1: 2, i2: 2 });
  });

  it('fewestPlays: what history has least of', () => {
    const history = [0, 0, 1].map((i, n) => ({ item: `i${i}`, start: -1000 - n }));
    expect(counts(solved(station(3, 3, 'fewestPlays', { history })))).toEqual({ i1: 1, i2: 2 });
  });

  it('shuffle: every item once before any again, in an order of its own for each seed', () => {
    const instance = station(8, 16, 'shuffle');
    const orders = [1, 2].map((seed) => solve(instance, { seed, effort: 'quick' }));
    for (const solution of orders) expect(Object.values(counts(solution))).toEqual(Array.from({ length: 8 }, () => 2));
    expect(played(orders[0]!)).not.toEqual(played(orders[1]!));
  });

  it('random: by the seed alone', () => {
    const instance = station(8, 40, 'random');
    expect(new Set([1, 2, 3].map((seed) => played(solve(instance, { seed, effort: 'quick' })).join())).size).toBe(3);
  });

  it('artistRest: artists far apart', () => {
    const order = played(solved(station(6, 9, 'artistRest'))).map((item) => Math.floor(Number(item.slice(1)) / 2));
    for (let i = 2; i < order.length; i++) expect(new Set(order.slice(i - 2, i + 1)).size).toBe(3);
  });
});

describe('progress', () => {
  it('is told as the search goes on, and a throw stops it', () => {
    const busy = station(6, 40, 'even', {
      rules: [
        { id: 'r1', shape: 'apart', tag: 'artist', seconds: 300, strength: 'hard' },
        { id: 'r2', shape: 'apart', tag: 'title', seconds: 1500, strength: 'soft', rank: 1 },
      ],
    });
    const told: number[] = [];
    solve(busy, { progress: (share) => told.push(share) });
    expect(told.length).toBeGreaterThan(3);
    expect(told).toEqual([...told].sort((a, b) => a - b));
    const stop = new Error('enough');
    expect(() =>
      solve(busy, {
        progress: () => {
          throw stop;
        },
      }),
    ).toThrow(stop);
  });
});

import fc from 'fast-check';
import type { Instance } from '../engine/instance.js';
import type { InstanceRule } from '../rules/shapes.js';

const VALUES = { artist: ['a', 'b', 'c'], voice: ['low', 'high'], album: ['x', 'y', 'z'] };
type Tag = keyof typeof VALUES;

export interface Size {
  readonly slots: number;
  readonly items: number;
  readonly history: number;
}

/** Small instances with every shape, lock, exemption and filter there is, mixed as chance will have it. */
export function randomInstance({ slots, items, history }: Size): fc.Arbitrary<Instance> {
  const tag = fc.constantFrom<Tag>('artist', 'voice', 'album');
  const tagged = tag.chain((name) =>
    fc.record({ tag: fc.constant(name), value: fc.option(fc.constantFrom(...VALUES[name]), { nil: undefined }) }),
  );
  const strength = fc.oneof(
    fc.constant({ strength: 'hard' as const }),
    fc.record({ strength: fc.constant('soft' as const), rank: fc.integer({ min: 1, max: 3 }) }),
  );
  const soft = fc.record({ strength: fc.constant('soft' as const), rank: fc.integer({ min: 1, max: 3 }) });
  const rule = fc.oneof(
    fc
      .tuple(
        tagged,
        strength,
        fc.integer({ min: 0, max: 5000 }),
        fc.option(fc.integer({ min: 0, max: 3000 }), { nil: undefined }),
      )
      .map(([t, s, seconds, byPool]) => ({
        shape: 'apart' as const,
        ...t,
        ...s,
        seconds,
        ...(byPool === undefined ? {} : { secondsByPool: { A: byPool } }),
      })),
    fc
      .tuple(tagged, strength, fc.integer({ min: 1, max: 3 }))
      .map(([t, s, max]) => ({ shape: 'streak' as const, ...t, ...s, max })),
    fc
      .tuple(
        tagged,
        strength,
        fc.integer({ min: 0, max: 3 }),
        fc.oneof(fc.constant('hour' as const), fc.integer({ min: 1, max: 6000 })),
      )
      .map(([t, s, count, window]) => ({ shape: 'atMost' as const, ...t, ...s, count, window })),
    fc
      .tuple(tagged, soft, fc.integer({ min: 1, max: 2 }))
      .map(([t, s, count]) => ({ shape: 'atLeast' as const, ...t, ...s, count, window: 'hour' as const })),
    fc.tuple(tag, strength, fc.nat(), fc.nat()).map(([name, s, from, to]) => ({
      shape: 'handOff' as const,
      tag: name,
      ...s,
      from: pick(name, from),
      to: pick(name, to),
    })),
    fc
      .tuple(tagged, strength, fc.integer({ min: 1, max: 2 }))
      .map(([t, s, days]) => ({ shape: 'otherHour' as const, ...t, ...s, days })),
    fc
      .tuple(
        tagged,
        strength,
        fc.integer({ min: 0, max: 3000 }),
        fc.array(fc.tuple(fc.integer({ min: -4000, max: 20_000 }), fc.integer({ min: 0, max: 900 }), fc.nat()), {
          maxLength: 8,
        }),
      )
      .map(([t, s, seconds, plays]) => ({
        shape: 'across' as const,
        ...t,
        ...s,
        seconds,
        plays: plays.map(([start, length, value]) => ({ start, end: start + length, values: [pick(t.tag, value)] })),
      })),
  );
  const some = <T>(values: readonly T[]): fc.Arbitrary<T[]> => fc.subarray([...values]);
  return fc
    .record({
      items: fc.array(
        fc.record({
          duration: fc.integer({ min: 0, max: 900 }),
          artist: some(VALUES.artist),
          voice: some(VALUES.voice),
          album: some(VALUES.album),
        }),
        { minLength: 2, maxLength: items },
      ),
      rules: fc.array(rule, { minLength: 1, maxLength: 5 }),
      slots: fc.array(
        fc.record({
          gap: fc.integer({ min: 0, max: 2500 }),
          pool: fc.constantFrom('A', 'B'),
          lock: fc.option(fc.nat(), { freq: 5, nil: undefined }),
          filter: fc.option(fc.nat(), { freq: 4, nil: undefined }),
          exempt: fc.option(fc.nat(), { freq: 5, nil: undefined }),
          uncharged: fc.option(fc.nat(), { freq: 6, nil: undefined }),
          odd: fc.boolean(),
        }),
        { minLength: 1, maxLength: slots },
      ),
      history: fc.array(
        fc.record({
          item: fc.nat(),
          // Often just before the first slot, and at times in its very hour.
          start: fc.oneof(fc.integer({ min: -100_000, max: 0 }), fc.integer({ min: -2000, max: 0 }), fc.constant(0)),
        }),
        {
          maxLength: history,
        },
      ),
    })
    .map((drawn) => assemble(drawn as never));
}

function pick(tag: Tag, n: number): string {
  return VALUES[tag][n % VALUES[tag].length]!;
}

interface Drawn {
  readonly items: readonly ({ readonly duration: number } & Record<Tag, string[]>)[];
  readonly rules: readonly Omit<InstanceRule, 'id'>[];
  readonly slots: readonly {
    readonly gap: number;
    readonly pool: 'A' | 'B';
    readonly lock?: number;
    readonly filter?: number;
    readonly exempt?: number;
    readonly uncharged?: number;
    readonly odd: boolean;
  }[];
  readonly history: readonly { readonly item: number; readonly start: number }[];
}

function assemble(drawn: Drawn): Instance {
  const ids = drawn.items.map((_, i) => `i${i}`);
  const rules = drawn.rules.map((rule, i) => ({ ...rule, id: `r${i}` })) as InstanceRule[];
  const pools: Instance['pools'] = {
    A: { items: ids.filter((_, i) => i % 2 === 0 || i < 2), order: 'even' },
    B: { items: ids.filter((_, i) => i % 2 === 1 || i < 1), order: 'even' },
  };
  let start = 0;
  const slots = drawn.slots.map((slot, s) => {
    start += slot.gap;
    const hour = Math.floor(start / 3600);
    const members = pools[slot.pool]!.items;
    return {
      id: `s${s}`,
      start,
      hour,
      pool: slot.pool,
      ...(slot.lock === undefined ? {} : { locked: members[slot.lock % members.length]! }),
      ...(slot.filter === undefined ? {} : { allow: ids.filter((_, i) => (slot.filter! >> (i % 8)) % 2 === 0) }),
      ...(slot.exempt === undefined ? {} : { exempt: [`r${slot.exempt % rules.length}`] }),
      ...(slot.uncharged === undefined ? {} : { uncharged: [`r${slot.uncharged % rules.length}`] }),
      ...(slot.odd ? { day: Math.floor(hour / 24), hourOfDay: hour % 24 } : {}),
    };
  });
  return {
    format: 'fuller-instance',
    version: 1,
    items: drawn.items.map(({ duration, ...tags }, i) => ({
      id: ids[i]!,
      duration,
      tags: { ...tags, title: [ids[i]!] },
    })),
    pools,
    slots,
    history: drawn.history.map((play) => ({
      item: play.item % 9 === 8 ? 'gone' : ids[play.item % ids.length]!,
      start: play.start,
    })),
    rules,
  };
}

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import * as v from 'valibot';
import { randomInstance } from '../testing/random-instance.js';
import { InstanceSchema, readInstance } from './instance.js';
import { hasPlainLists } from './plain-lists.js';

const good = {
  format: 'fuller-instance',
  version: 1,
  items: [
    { id: 'i1', duration: 200, tags: { artist: ['a'] } },
    { id: 'i2', duration: 200, tags: {} },
  ],
  pools: { A: { items: ['i1'], order: 'even' } },
  slots: [
    { id: 's1', start: 0, hour: 0, pool: 'A' },
    { id: 's2', start: 220, hour: 0, pool: 'A' },
  ],
  history: [{ item: 'gone', start: -50 }],
  rules: [{ id: 'r1', shape: 'apart', tag: 'artist', seconds: 60, strength: 'hard' }],
};

/** The good instance with one thing put in at a path. */
function withAt(path: string, value: unknown): unknown {
  const changed = structuredClone(good) as Record<string, unknown>;
  const keys = path.split('.');
  const last = keys.pop()!;
  const holder = keys.reduce((at, key) => at[key] as Record<string, unknown>, changed);
  holder[last] = value;
  return changed;
}

describe('reading an instance', () => {
  it('takes a good one, and passes over what it does not know', () => {
    expect(readInstance(withAt('comment', 'mine'))).toMatchObject({ ok: true });
  });

  it.each<[string, unknown, string, string]>([
    ['format', 'other', 'format', 'must be fuller-instance'],
    ['version', 2, 'version', 'must be 1'],
    ['items', 'none', 'items', 'must be a list'],
    ['items.0.duration', -1, 'items[0].duration', 'is negative'],
    ['items.0.duration', 1.5, 'items[0].duration', 'must be whole'],
    ['items.1.id', 'i1', 'items[1].id', '“i1” stands twice'],
    ['items.0.tags.artist', 'a', 'items[0].tags.artist', 'must be a list'],
    ['pools.A.items.0', 'i9', 'pools.A.items[0]', 'no item “i9”'],
    ['pools.A.order', 'odd', 'pools.A.order', 'must be one of even'],
    ['pools.A.weights', { i2: 3 }, 'pools.A.weights.i2', 'is not an item of the pool'],
    ['slots.1.id', 's1', 'slots[1].id', 'stands twice'],
    ['slots.1.start', -5, 'slots[1].start', 'is before the slot above it'],
    ['slots.0.hour', 3, 'slots[1].hour', 'is before that of the slot above it'],
    ['slots.1.pool', 'B', 'slots[1].pool', 'no pool “B”'],
    ['slots.1.locked', 'i9', 'slots[1].locked', 'no item “i9”'],
    ['slots.1.locked', 'i2', 'slots[1].locked', '“i2” is not in pool “A”'],
    ['slots.1.allow', ['i1', 'x'], 'slots[1].allow[1]', 'no item “x”'],
    ['slots.0.exempt', ['r7'], 'slots[0].exempt[0]', 'no rule “r7”'],
    ['slots.0.uncharged', ['r7'], 'slots[0].uncharged[0]', 'no rule “r7”'],
    ['slots', Array.from({ length: 1_000_000 }), 'slots', 'has 1000000 entries; at most 100000 are taken'],
    ['history.0.start', 100, 'history[0].start', 'is after the first slot'],
    ['rules.0.shape', 'near', 'rules[0].shape', 'must be one of apart, streak'],
    ['rules.0.seconds', -1, 'rules[0].seconds', 'is negative'],
    ['rules.0.strength', 'firm', 'rules[0].strength', 'must be hard or soft'],
    ['rules.0.strength', 'soft', 'rules[0].rank', 'is missing'],
    ['rules.0.secondsByPool', { Z: 5 }, 'rules[0].secondsByPool.Z', 'no pool “Z”'],
    [
      'rules.0',
      { id: 'r1', shape: 'atLeast', tag: 't', count: 1, window: 'hour', strength: 'hard' },
      'rules[0].strength',
      'must be soft',
    ],
    [
      'rules.0',
      { id: 'r1', shape: 'atMost', tag: 't', count: 1, window: 0, strength: 'hard' },
      'rules[0].window',
      'must be more than nothing',
    ],
  ])('names what is wrong with %s = %j', (path, value, where, why) => {
    const read = readInstance(withAt(path, value));
    expect(read).toMatchObject({ ok: false, path: where, why: expect.stringContaining(why) });
  });

  it.each([null, 7, 'text', []])('refuses %j', (raw) => expect(readInstance(raw).ok).toBe(false));
});

describe('lists that need no schema', () => {
  const odd = fc.oneof(
    fc.jsonValue({ maxDepth: 1 }),
    fc.constantFrom(
      '',
      'x'.repeat(201),
      -1,
      1.5,
      24,
      3e9,
      null,
      [],
      {},
      { a: 1 },
      ['', 'a'],
      JSON.parse('{"__proto__":["a"]}'),
    ),
  );

  it('are those that the schema takes and leaves as they are', () => {
    let plain = 0;
    let other = 0;
    fc.assert(
      fc.property(
        randomInstance({ slots: 5, items: 4, history: 3 }),
        fc.constantFrom('items', 'slots', 'history'),
        fc.nat(),
        fc.constantFrom(
          'id',
          'item',
          'start',
          'hour',
          'pool',
          'duration',
          'tags',
          'allow',
          'exempt',
          'locked',
          'day',
          'more',
        ),
        odd,
        (instance, list, place, field, value) => {
          const raw = JSON.parse(JSON.stringify(instance)) as Record<string, Record<string, unknown>[]>;
          const holder = raw[list]!;
          if (holder.length > 0) holder[place % holder.length]![field] = value;
          const parsed = v.safeParse(InstanceSchema, raw);
          if (!hasPlainLists(raw)) {
            other++;
            return;
          }
          plain++;
          expect(parsed.success).toBe(true);
          const { items, slots, history } = parsed.output as typeof raw;
          expect({ items, slots, history }).toEqual({
            items: raw['items'],
            slots: raw['slots'],
            history: raw['history'],
          });
        },
      ),
      { numRuns: 3000 },
    );
    expect(plain).toBeGreaterThan(200);
    expect(other).toBeGreaterThan(500);
  });

  it('say what the schema says of what is wrong, and where', () => {
    fc.assert(
      fc.property(
        randomInstance({ slots: 5, items: 4, history: 3 }),
        fc.constantFrom('pools', 'rules', 'format', 'items'),
        odd,
        (instance, key, value) => {
          const raw = { ...instance, [key]: value };
          const parsed = v.safeParse(InstanceSchema, raw, { abortEarly: true });
          const read = readInstance(raw);
          if (parsed.success) return;
          expect(read).toMatchObject({ ok: false, path: expect.stringContaining(key) });
        },
      ),
      { numRuns: 300 },
    );
  });
});

import { describe, expect, it } from '@jest/globals';
import type { Instance } from './instance.js';
import type { InstanceSlot } from '../sequence/parts.js';
import { readInstance } from './instance.js';
import { solve } from './solve.js';

/** Items a, b, c… locked one after another, so that what is counted is what stands. */
function breaksOf(
  rule: Record<string, unknown>,
  plays: string,
  more: Partial<Instance> & { slot?: Record<number, Partial<InstanceSlot>>; gap?: number } = {},
): string[] {
  const { slot = {}, gap = 300, ...rest } = more;
  const items = [...new Set(plays.replace(/\W/g, ''))].map((id) => ({
    id,
    duration: 200,
    tags: { artist: [id], mood: id === 'c' ? ['up', 'down'] : id === 'a' ? ['up'] : [] },
  }));
  const slots = [...plays].map((id, s) => ({
    id: `${s}`,
    start: s * gap,
    hour: Math.floor((s * gap) / 3600),
    pool: 'P',
    ...(id === '.' ? { allow: [] } : { locked: id }),
    ...slot[s],
  }));
  const pools = { P: { items: items.map((item) => item.id), order: 'even' } };
  const read = readInstance({
    format: 'fuller-instance',
    version: 1,
    items,
    pools,
    slots,
    history: [],
    rules: [{ id: 'r', strength: 'soft', rank: 1, ...rule }],
    ...rest,
  });
  if (!read.ok) throw new Error(`${read.path} ${read.why}`);
  return solve(read.instance, { effort: 'quick' }).breaks.map((found) => `${found.slot}:${found.by}`);
}

/** Plays elsewhere of a value, by their starts and ends in seconds. */
const at = (value: string, ...times: number[]): object[] =>
  times.flatMap((start, n) => (n % 2 === 0 ? [{ start, end: times[n + 1], values: [value] }] : []));
const artist = { tag: 'artist' };
const mood = { tag: 'mood' };

describe('one break is', () => {
  it.each<[string, string[], string[]]>([
    [
      'for apart: a play too soon after the end of the last with the value',
      breaksOf({ shape: 'apart', ...artist, seconds: 500 }, 'aba'),
      ['2:100'],
    ],
    ['for apart: none at exactly the distance', breaksOf({ shape: 'apart', ...artist, seconds: 400 }, 'aba'), []],
    [
      'for apart: one, whatever the number of values',
      breaksOf({ shape: 'apart', ...mood, seconds: 900 }, 'cc'),
      ['1:800'],
    ],
    [
      'for apart: by the distance of the later play’s pool',
      breaksOf({ shape: 'apart', ...artist, seconds: 100, secondsByPool: { P: 500 } }, 'aba'),
      ['2:100'],
    ],
    [
      'for streak: each play past the limit, open slots skipped',
      breaksOf({ shape: 'streak', ...artist, max: 2 }, 'aa.aab'),
      ['3:1', '4:2'],
    ],
    ['for streak: two for two values', breaksOf({ shape: 'streak', ...mood, max: 1 }, 'cc'), ['1:1', '1:1']],
    [
      'for streak: history first',
      breaksOf({ shape: 'streak', ...artist, max: 1 }, 'ab', { history: [{ item: 'a', start: -300 }] }),
      ['0:1'],
    ],
    [
      'for atMost: the play too many in its window',
      breaksOf({ shape: 'atMost', ...artist, count: 2, window: 700 }, 'aaa.aa'),
      ['2:1'],
    ],
    [
      'for atMost: a window that leaves out a play exactly its length ago',
      breaksOf({ shape: 'atMost', ...artist, count: 1, window: 300 }, 'aaa'),
      [],
    ],
    [
      'for atMost by hour: the hour of the log',
      breaksOf({ shape: 'atMost', ...artist, count: 1, window: 'hour' }, 'aaa', { slot: { 2: { hour: 1 } } }),
      ['1:1'],
    ],
    [
      'for atLeast: each play an hour is short of, at its last slot',
      breaksOf({ shape: 'atLeast', ...mood, value: 'up', count: 2 }, 'ab'),
      ['1:1'],
    ],
    [
      'for atLeast: for each value any item has',
      breaksOf({ shape: 'atLeast', ...mood, count: 1 }, 'bc', { slot: { 1: { hour: 1 } } }),
      ['0:1', '0:1'],
    ],
    [
      'for atLeast: none where every slot is exempt or uncharged',
      breaksOf({ shape: 'atLeast', ...mood, value: 'up', count: 2 }, 'bb', {
        slot: { 0: { exempt: ['r'] }, 1: { uncharged: ['r'] } },
      }),
      [],
    ],
    [
      'for handOff: the second of the pair',
      breaksOf({ shape: 'handOff', ...artist, from: 'a', to: 'b' }, 'a.ba'),
      ['2:1'],
    ],
    [
      'for handOff: none when a play comes between',
      breaksOf({ shape: 'handOff', ...artist, from: 'a', to: 'b' }, 'acb'),
      [],
    ],
    [
      'for otherHour: the same hour on a day before',
      breaksOf({ shape: 'otherHour', ...artist, days: 2 }, 'ab', {
        history: [
          { item: 'a', start: -47 * 3600 },
          { item: 'b', start: -49 * 3600 },
        ],
        slot: { 0: { hour: 1 }, 1: { hour: 1 } },
      }),
      ['0:1'],
    ],
    [
      'for otherHour: by the day and hour a slot carries',
      breaksOf({ shape: 'otherHour', ...artist, days: 1 }, 'aa', {
        slot: { 0: { day: 0, hourOfDay: 5 }, 1: { day: 1, hourOfDay: 5 } },
      }),
      ['1:1'],
    ],
    [
      'for across: all that is asked where both play at once, and what is missing before and after',
      breaksOf({ shape: 'across', ...artist, seconds: 150, plays: at('a', 0, 200, 550, 700, 1150, 1400) }, 'aaba'),
      ['0:150', '1:100', '3:100'],
    ],
    [
      'for across: none at exactly the distance, and none for what only another value plays',
      breaksOf({ shape: 'across', ...artist, seconds: 100, plays: at('a', 600, 700, 1000, 1100) }, 'babb'),
      [],
    ],
    [
      'for across: one, whatever the number of values, and none of a play exempt or uncharged',
      breaksOf({ shape: 'across', ...mood, seconds: 60, plays: [...at('up', 0, 900), ...at('down', 0, 900)] }, 'ccc', {
        slot: { 1: { exempt: ['r'] }, 2: { uncharged: ['r'] } },
      }),
      ['0:60'],
    ],
    [
      'for nobody: a play exempt is invisible',
      breaksOf({ shape: 'streak', ...artist, max: 1 }, 'aba', { slot: { 1: { exempt: ['r'] } } }),
      ['2:1'],
    ],
    [
      'for nobody: a play uncharged is seen and not charged',
      breaksOf({ shape: 'streak', ...artist, max: 1 }, 'aaa', { slot: { 1: { uncharged: ['r'] } } }),
      ['2:2'],
    ],
  ])('%s', (_, found, expected) => expect(found).toEqual(expected));
});

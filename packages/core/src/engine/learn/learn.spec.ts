import { describe, expect, it } from '@jest/globals';
import { recount } from '../../testing/recount.js';
import type { Instance } from '../instance.js';
import { Assignment } from '../model/assignment.js';
import { compile } from '../model/compile.js';
import { solve } from '../solve.js';
import { DomainCuts } from './domains.js';

const VOICES = ['low', 'high', 'both'];

/** More plays than a model takes whole: 120 slots from 180 items, whose voices must change and rarely may. */
function largeLog(): Instance {
  const items = Array.from({ length: 180 }, (_, i) => ({
    id: `i${i}`,
    duration: 200,
    // Two of three are low, so that runs of them cannot be helped.
    tags: { voice: [VOICES[i % 3 === 0 ? 1 : 0]!], artist: [`a${i % 40}`], title: [`t${i}`] },
  }));
  return {
    format: 'fuller-instance',
    version: 1,
    items,
    pools: { A: { items: items.map(({ id }) => id), order: 'even' } },
    slots: Array.from({ length: 120 }, (_, s) => ({
      id: `s${s}`,
      start: s * 220,
      hour: Math.floor(s / 16),
      pool: 'A',
    })),
    history: Array.from({ length: 60 }, (_, n) => ({ item: `i${(n * 7) % 180}`, start: -220 * (60 - n) })),
    rules: [
      { id: 'r1', shape: 'apart', tag: 'artist', seconds: 1500, strength: 'hard' },
      { id: 'r2', shape: 'streak', tag: 'voice', max: 1, strength: 'soft', rank: 1 },
      { id: 'r3', shape: 'atMost', tag: 'voice', value: 'low', count: 9, window: 'hour', strength: 'soft', rank: 2 },
    ],
  };
}

describe('learning over a large log', () => {
  it('mends windows of what a short search leaves, breaks no must, and proves nothing of what it did not see', () => {
    const instance = largeLog();
    // Hardly a search at all, so that what is good in the log is due to learning.
    const bare = solve(instance, { evaluations: 300, conflicts: 0, explain: 'none' });
    const learnt = solve(instance, { evaluations: 300, conflicts: 6000, explain: 'none' });
    expect(bare.score.soft['1']).toBeGreaterThan(0);
    expect(learnt.score).toMatchObject({ open: 0, soft: { 1: 0, 2: 0 } });
    const counted = recount(instance, learnt.assignment);
    expect([counted.hard, counted.open, counted.soft[1] ?? 0]).toEqual([0, 0, 0]);
  });

  it('leaves ranks after the last that is asked for to other searches', () => {
    const instance = largeLog();
    const first = solve(instance, { evaluations: 300, conflicts: 6000, learnRanks: 1, explain: 'none' });
    expect(first.score.soft['1']).toBe(0);
    const none = solve(instance, { evaluations: 300, conflicts: 6000, learnRanks: 0, explain: 'none' });
    expect(none.score.soft['1']).toBeGreaterThan(0);
  });
});

describe('domains cut for a model', () => {
  const assignment = new Assignment(compile(largeLog()));
  const { history } = assignment;
  const all = Array.from({ length: 120 }, (_, s) => history + s);

  it('are whole where there are few plays, and bands of the turn that move on where there are many', () => {
    const few = new DomainCuts(assignment).of(all.slice(0, 10));
    expect([few.cut, few.domain(all[3]!).length]).toEqual([false, 180]);
    const many = new DomainCuts(assignment).of(all);
    expect(many.cut).toBe(true);
    const bands = all.map((p) => Array.from(many.domain(p)));
    expect(bands.every((band) => band.length === 48 && new Set(band).size === 48)).toBe(true);
    // What never played comes first, what played last comes last; each band begins a little after the one before.
    const played = new Set(Array.from({ length: 60 }, (_, n) => (n * 7) % 180));
    expect(bands[0]!.some((item) => played.has(item))).toBe(false);
    expect(bands.at(-1)!.filter((item) => played.has(item)).length).toBeGreaterThan(30);
    expect(bands[1]!.filter((item) => bands[0]!.includes(item))).toHaveLength(46);
  });

  it('hold what stands now, wherever that is in the turn', () => {
    const last = (59 * 7) % 180;
    assignment.put(all[0]!, last);
    expect(Array.from(new DomainCuts(assignment).of(all).domain(all[0]!))).toContain(last);
    assignment.lift(all[0]!);
  });
});

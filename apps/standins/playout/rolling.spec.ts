import { describe, expect, it } from '@jest/globals';
import { SAY_AGAIN_MS, type ClockLine } from '@fuller/core';
import { smallStation } from '@fuller/core/testing/small-station';
import { HOUR, MINUTE, RolledStation, T0 } from '../testing/rolled-station.js';

describe('a station that runs from a live queue', () => {
  it('plays on for hours from the clocks: no gap, no must broken, as deep as asked', () => {
    const rolled = new RolledStation(smallStation(), { loop: null, depth: { minutes: 30 } });
    rolled.run(T0 + 7 * HOUR);
    expect(rolled.plays.length).toBeGreaterThan(7 * 14);
    expect([rolled.gaps(), rolled.tooNear(), rolled.shallow]).toEqual([[], [], 0]);
  });

  it('comes through skips, a dead player and jumps of its clock', () => {
    const rolled = new RolledStation(smallStation(), { loop: null, depth: { items: 8 } });
    let n = 0;
    rolled.run(T0 + 6 * HOUR, 4 * MINUTE, () => {
      n++;
      if (n % 5 === 0) rolled.player.skip();
      if (n === 40) rolled.player.stopFor(10 * MINUTE);
      if (n === 60) rolled.player.jump(rolled.player.now + 25 * MINUTE);
    });
    expect(rolled.tooNear()).toEqual([]);
    // Silence only where the player was stopped, and where time was jumped over.
    expect(
      rolled
        .gaps()
        .map((gap) => Math.round(gap / MINUTE))
        .sort(),
    ).toEqual([10, 25]);
  });

  it('works through the lines of a loop whatever the hour, passing over a line that nothing fits', () => {
    const pick = (id: string, categoryId: string): ClockLine => ({ id, kind: 'pick', categoryId, comment: '' });
    const data = smallStation();
    const categories = {
      ...data.categories,
      odd: ['song7'],
      gold: data.categories['gold']!.filter((id) => id !== 'song7'),
    };
    const station = smallStation({ categories, musicCategories: ['gold', 'odd'] });
    const rolled = new RolledStation(station, {
      loop: [pick('a', 'gold'), pick('b', 'gold'), pick('c', 'odd')],
      depth: { items: 5 },
    });
    rolled.run(T0 + 5 * HOUR);
    expect([rolled.gaps(), rolled.tooNear()]).toEqual([[], []]);
    // One song every four hours; its line is passed over in between, and told.
    expect(rolled.plays.filter(({ itemId }) => itemId === 'song7').length).toBeLessThanOrEqual(2);
    expect(rolled.plays.filter(({ itemId }) => itemId === 'song7').length).toBeGreaterThanOrEqual(1);
    expect(rolled.passedOver.length).toBeGreaterThan(20);
    expect(rolled.passedOver[0]).toMatchObject({ categoryId: 'odd' });
    expect(rolled.passedOver[0]!.open?.heldBackBy[0]?.ruleId).toMatch(/-rule$/);
  });

  it('takes requests in without breaking a rule, and tells each listener a time that comes true or is told again', () => {
    const rolled = new RolledStation(smallStation(), { loop: null, depth: { minutes: 60 } });
    let n = 0;
    rolled.run(T0 + 5 * HOUR, 2 * MINUTE, (nowMs) => {
      n++;
      if (n % 6 === 0 && nowMs < T0 + 4 * HOUR) rolled.ask(`song${(n * 37) % 120}`);
      if (n % 25 === 0) rolled.player.skip();
    });
    expect([rolled.gaps(), rolled.tooNear(), rolled.shallow]).toEqual([[], [], 0]);
    const aired = rolled.requests.filter(({ airedMs }) => airedMs !== null);
    expect(aired.length).toBeGreaterThan(rolled.requests.length * 0.6);
    for (const { told, airedMs } of aired) {
      const last = told.at(-1)!;
      expect(last.is === 'planned' && Math.abs(last.atMs - airedMs!)).toBeLessThanOrEqual(SAY_AGAIN_MS);
    }
    // Whoever could not be placed was told what holds the song back, and it was true: it was free then, not before.
    const held = rolled.requests.flatMap(({ told }) => told.filter((answer) => answer.is === 'held'));
    expect(held.every((answer) => answer.is === 'held' && answer.freeMs !== null && answer.ruleId !== null)).toBe(true);
  });

  it('lets a hard moment begin at its second, and plays up to it', () => {
    const base = smallStation();
    const clock = base.plan.clocks[0]!;
    const moment: ClockLine = {
      id: 'm',
      kind: 'moment',
      atMs: 30 * MINUTE,
      hard: true,
      itemId: 'ident',
      categoryId: null,
      comment: '',
    };
    const lines = [...clock.lines.slice(0, 8), moment, ...clock.lines.slice(8)];
    const data = smallStation({
      plan: { ...base.plan, clocks: [{ ...clock, lines }] },
      items: [...base.items, { ...base.items[0]!, id: 'ident', artistIds: [], durationMs: 20_000 }],
    });
    const rolled = new RolledStation(data, { loop: null, depth: { minutes: 20 } });
    rolled.run(T0 + 4 * HOUR + 10 * MINUTE);
    const moments = rolled.plays.filter(({ startMs }) => startMs % HOUR === 30 * MINUTE);
    expect(moments.filter(({ itemId }) => itemId === 'ident')).toHaveLength(4);
    expect(rolled.gaps()).toEqual([]);
  });
});

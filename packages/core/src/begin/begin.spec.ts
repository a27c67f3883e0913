import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { axesOf, type BeginSong } from './axes.js';
import { freeCode, proposeCategories } from './propose-categories.js';
import { joinPart, moveBorder, splitPart } from './cut-parts.js';
import { proposeClocks, songsAnHour } from './propose-clocks.js';
import { firstStep, RULE_STEPS, rulesOf } from './propose-rules.js';

const song = (n: number, patch: Partial<BeginSong> = {}): BeginSong => ({
  id: `s${n}`,
  year: null,
  startDate: null,
  file: null,
  plays: 0,
  durationMs: 210_000,
  artistIds: [`a${n % 20}`],
  tags: {},
  ...patch,
});
const songs = (count: number, of: (n: number) => Partial<BeginSong> = () => ({})) =>
  Array.from({ length: count }, (_, n) => song(n, of(n)));
const newId = () => {
  let n = 0;
  return () => `id${++n}`;
};

describe('what a library can be divided by', () => {
  it('is what most of its songs say, the year first; the whole where they say nothing', () => {
    const rich = songs(100, (n) => ({
      year: n < 80 ? 2026 - (n % 30) : null,
      file: `music/${n % 3 ? 'rock' : 'folk'}/song${n}.wav`,
      plays: n,
      tags: { Tempo: [String((n % 5) + 1)], Rare: n < 5 ? ['yes'] : [] },
    }));
    const axes = axesOf(rich);
    expect(axes.map(({ key }) => key)).toEqual(['year', 'plays', 'folder', 'tag:Tempo']);
    const [year] = axes;
    expect([year!.values[0]!.label, year!.values.at(-1)]).toEqual(['2026', { label: 'not known', songs: 20 }]);
    for (const { values, places } of axes) {
      expect(values.reduce((sum, one) => sum + one.songs, 0)).toBe(100);
      values.forEach((value, at) => expect(places.filter((place) => place === at)).toHaveLength(value.songs));
    }
    expect(axesOf(songs(10)).map(({ key, values }) => [key, values])).toEqual([
      ['all', [{ label: 'all songs', songs: 10 }]],
    ]);
    expect(axesOf([])).toEqual([]);
  });
});

describe('categories that are proposed', () => {
  it('cover every song once, in order, with codes of their own, whatever the library', () => {
    const value = fc.record({
      label: fc.string({ minLength: 1, maxLength: 30 }),
      songs: fc.integer({ min: 0, max: 900 }),
    });
    fc.assert(
      fc.property(
        fc.array(value, { minLength: 1, maxLength: 40 }),
        fc.constantFrom('year', 'added', 'plays', 'folder', 'tag:Tempo'),
        (values, key) => {
          const used = key === 'plays' ? values.slice(0, 4) : values;
          const parts = proposeCategories({ key, name: key, why: '', values: used });
          expect([parts[0]!.from, parts.at(-1)!.to]).toEqual([0, used.length]);
          parts.forEach(({ from, to }, n) => {
            expect(to).toBeGreaterThan(from);
            if (n > 0) expect(from).toBe(parts[n - 1]!.to);
          });
          expect(new Set(parts.map(({ code }) => code)).size).toBe(parts.length);
          for (const { code } of parts) expect(code).toMatch(/^[\p{L}\p{N}]{1,4}$/u);
        },
      ),
    );
  });

  it('are few for a small library, and the first of many is small', () => {
    const years = (count: number) => axesOf(songs(count, (n) => ({ year: 2026 - (n % 50) })))[0]!;
    expect(proposeCategories(years(30))).toHaveLength(1);
    expect(proposeCategories(years(60)).map(({ name }) => name)).toEqual(['Current', 'Gold']);
    const many = years(1000);
    const parts = proposeCategories(many);
    expect(parts.map(({ name }) => name)).toEqual(['Current', 'Recurrent', 'Gold', 'Deep gold']);
    const count = ({ from, to }: { from: number; to: number }) =>
      many.values.slice(from, to).reduce((sum, one) => sum + one.songs, 0);
    expect(count(parts[0]!)).toBe(40);
    expect(count(parts[3]!)).toBeGreaterThan(400);
    const taken = new Set<string>();
    expect([freeCode('Slow', taken), freeCode('Slower', taken), freeCode('Slow tempo', taken)]).toEqual([
      'S',
      'SL',
      'S2',
    ]);
  });
});

describe('categories that are cut by hand', () => {
  it('cover every value once, whatever is dragged, split and joined', () => {
    const values = Array.from({ length: 12 }, (_, n) => ({ label: String(n), songs: n }));
    const step = fc.record({
      act: fc.constantFrom('move', 'split', 'join'),
      n: fc.integer({ min: -1, max: 6 }),
      place: fc.integer({ min: -20, max: 20 }),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        let parts: ReturnType<typeof moveBorder> = [{ name: 'All', code: 'A', from: 0, to: values.length }];
        for (const { act, n, place } of steps) {
          const before = parts.length;
          if (act === 'move') parts = moveBorder(parts, n, place);
          else parts = act === 'split' ? splitPart(parts, n, values) : joinPart(parts, n);
          expect(Math.abs(parts.length - before)).toBeLessThanOrEqual(act === 'move' ? 0 : 1);
        }
        expect([parts[0]!.from, parts.at(-1)!.to]).toEqual([0, values.length]);
        parts.forEach(({ from, to }, n) => {
          expect(to).toBeGreaterThan(from);
          if (n > 0) expect(from).toBe(parts[n - 1]!.to);
        });
        expect(new Set(parts.map(({ code }) => code)).size).toBe(parts.length);
      }),
    );
  });
});

describe('clocks that are proposed', () => {
  const category = fc.record({
    songs: fc.integer({ min: 1, max: 5000 }),
    averageMs: fc.integer({ min: 60_000, max: 480_000 }),
  });

  it('fill the hour as nearly as songs can, with no category oftener than its songs bear while others have room', () => {
    fc.assert(
      fc.property(fc.array(category, { minLength: 1, maxLength: 6 }), fc.constantFrom(0.4, 0.6, 0.8), (made, lean) => {
        const categories = made.map((one, n) => ({ ...one, id: `c${n}` }));
        const counts = songsAnHour(categories, lean, 3_600_000);
        const ms = counts.reduce((sum, count, n) => sum + count * categories[n]!.averageMs, 0);
        const longest = Math.max(...categories.map(({ averageMs }) => averageMs));
        expect(counts.reduce((a, b) => a + b, 0)).toBeGreaterThan(0);
        // Lengths differ between categories; together they are within a few songs of the hour.
        expect(Math.abs(ms - 3_600_000)).toBeLessThan(Math.max(longest * 4, 3_600_000 * 0.6));
        const capped = counts.every((count, n) => count <= Math.max(1, Math.floor(categories[n]!.songs / 3)));
        const total = categories.reduce((sum, { songs: one }) => sum + Math.max(1, Math.floor(one / 3)), 0);
        if (total >= counts.reduce((a, b) => a + b, 0)) expect(capped).toBe(true);
      }),
    );
  });

  it('run the whole week, with breaks where they are booked, small categories oftener by day than at night', () => {
    const categories = [
      { id: 'current', songs: 40, averageMs: 210_000 },
      { id: 'gold', songs: 960, averageMs: 210_000 },
    ];
    const { clocks, week } = proposeClocks(categories, { breaks: 2, newId: newId() });
    expect(clocks.map(({ name }) => name)).toEqual(['Daytime', 'Evening', 'Night']);
    expect(week.blocks).toHaveLength(14);
    expect(week.defaultClockId).toBe(clocks[0]!.id);
    const of = (n: number, id: string) =>
      clocks[n]!.lines.filter((line) => line.kind === 'pick' && line.categoryId === id).length;
    expect(of(0, 'current')).toBeGreaterThan(of(2, 'current'));
    for (const { lines } of clocks)
      expect(lines.flatMap((line) => (line.kind === 'break' ? [line.bookedAtMs / 60_000] : []))).toEqual([18, 48]);
    expect(new Set(clocks.flatMap(({ lines }) => lines.map(({ id }) => id))).size).toBe(
      clocks.flatMap(({ lines }) => lines).length,
    );
  });
});

describe('rules that are proposed', () => {
  it('ask what the library can give, and less of a small one or of one artist', () => {
    const step = (shortestTurnHours: number, busiestArtistShare: number) =>
      firstStep({ shortestTurnHours, busiestArtistShare, songsAnHour: 17 });
    expect(step(20, 0.01)).toBe(0);
    expect(step(5, 0.01)).toBeGreaterThan(0);
    expect(RULE_STEPS[step(20, 0.5)]!.artist).toBeLessThanOrEqual(5 * 60);
    expect(step(0.1, 1)).toBe(RULE_STEPS.length - 1);
    for (const one of RULE_STEPS) {
      const rules = rulesOf(one, newId());
      expect(rules.find(({ tag, strength }) => tag === 'title' && strength === 'hard')!.amount).toBe(one.title);
      expect(rules.every(({ amount }) => amount > 0)).toBe(true);
    }
  });
});

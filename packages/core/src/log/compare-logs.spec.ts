import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { generateDay } from '../generate/generate-day.js';
import { DATE, smallStation } from '../testing/small-station.js';
import { applyEdit, mustApply } from './apply-edit.js';
import { compareLogs } from './compare-logs.js';
import { allEntries, findEntry, itemOf, type DailyLog } from './daily-log.js';
import { byHand } from './log-edit.js';
import { pasted } from './paste-entry.js';

const { log } = generateDay(smallStation(), { date: DATE, seed: 1, previous: null, only: 'all' });
const picks = allEntries(log).filter((entry) => entry.kind === 'pick');
const differing = (a: DailyLog, b: DailyLog) =>
  compareLogs(a, b).rows.flatMap(({ differs, before, after }) => (differs ? [[before?.id, after?.id]] : []));

describe('two logs side by side', () => {
  it('differ in nothing where they are the same, and why an item was chosen is no difference', () => {
    expect(compareLogs(log, log)).toMatchObject({ hours: [], differing: 0 });
    const hours = log.hours.map((hour) => ({
      ...hour,
      entries: hour.entries.map((entry) => (entry.kind === 'pick' ? { ...entry, why: null, runMs: 5 } : entry)),
    }));
    expect(differing(log, { ...log, hours })).toEqual([]);
  });

  it('show what was replaced, noted, put in, taken out and moved as just that', () => {
    const [a, b, c, d] = picks.map(({ id }) => id);
    let after = mustApply(log, { type: 'replace', entryId: a!, itemId: 'song9', origin: 'hand' });
    after = mustApply(after, { type: 'note', entryId: b!, note: 'new' });
    after = mustApply(after, { type: 'remove', entryId: c! });
    expect(differing(log, after)).toEqual([
      [a, a],
      [b, b],
      [c, undefined],
    ]);
    const hourIndex = log.hours.findIndex(({ entries }) => entries.some(({ id }) => id === d));
    const moved = mustApply(log, {
      type: 'move',
      entryId: d!,
      to: { hourIndex, beforeId: log.hours[hourIndex]!.entries[0]!.id },
    });
    expect(differing(log, moved).flat().filter(Boolean)).toEqual([d, d]);
    const put = mustApply(log, {
      type: 'insert',
      at: { hourIndex: 3, beforeId: null },
      entry: pasted(findEntry(log, a!)!, 'copy'),
    });
    expect(compareLogs(log, put)).toMatchObject({ hours: [3], differing: 1 });
  });

  it('hold every entry of both once, whatever was done to one of them', () => {
    const ids = picks.slice(0, 6).map(({ id }) => id);
    const edits = fc.oneof(
      fc.record({ type: fc.constant('remove' as const), entryId: fc.constantFrom(...ids) }),
      fc.record({
        type: fc.constant('move' as const),
        entryId: fc.constantFrom(...ids),
        to: fc.record({ hourIndex: fc.integer({ min: 0, max: 3 }), beforeId: fc.constantFrom(null, ...ids) }),
      }),
      fc.record({ type: fc.constant('open' as const), entryId: fc.constantFrom(...ids) }),
    );
    fc.assert(
      fc.property(fc.array(edits, { maxLength: 8 }), (list) => {
        const after = list.reduce<DailyLog>((current, edit) => {
          const outcome = applyEdit(current, byHand(edit));
          return outcome.ok ? outcome.log : current;
        }, log);
        const { rows, differing: count } = compareLogs(log, after);
        expect(rows.flatMap(({ before }) => before?.id ?? [])).toEqual(allEntries(log).map(({ id }) => id));
        expect(rows.flatMap(({ after: one }) => one?.id ?? [])).toEqual(allEntries(after).map(({ id }) => id));
        const plays = (of: DailyLog) =>
          of.hours.map(({ entries }) => entries.map((entry) => [entry.id, itemOf(entry)]));
        expect(count === 0).toBe(JSON.stringify(plays(after)) === JSON.stringify(plays(log)));
      }),
    );
  });
});

import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { airedPlays, isDifference, type KnownRow } from './aired-plays.js';
import type { AsRun, MissedRow } from './as-run.js';
import { AS_RUN_LAYOUT, writeAsRunText } from './as-run-text.js';
import { readAsRun, unknownRows } from './read-as-run.js';
import { reconcile, type PlannedRow, type ReconciledRow } from './reconcile.js';

const DATE = '2026-11-24';
const T0 = Date.UTC(2026, 10, 24);
const MINUTE = 60_000;
const ABOUT = { date: DATE, timeZone: 'Europe/Dublin', fromMs: T0, layout: AS_RUN_LAYOUT };

function plan(id: string, startMs: number, name = id): PlannedRow {
  const told = { kind: 'song', artist: `Artist ${name}`, title: `Title ${name}`, cart: '', file: '' };
  return { id, startMs, durationMs: 3 * MINUTE, ...told, itemId: `item-${name}` };
}
function played({ id, startMs, durationMs, itemId, ...row }: PlannedRow, more: Partial<KnownRow> = {}): KnownRow {
  const at = more.startMs ?? startMs;
  const told = { key: `k${at}`, endMs: at + durationMs, ended: 'whole', by: 'log' } as const;
  void id;
  return { ...row, startMs: at, entryId: '', itemId, ...told, ...more };
}
const hour = Array.from({ length: 20 }, (_, n) => plan(`e${n}`, T0 + n * 3 * MINUTE));
const all = (rows: readonly KnownRow[], missed: readonly MissedRow[] = []): ReconciledRow<KnownRow>[] =>
  reconcile(hour, { rows, missed, coveredFromMs: T0, coveredUntilMs: T0 + 60 * MINUTE }, MINUTE);
const differences = (rows: readonly ReconciledRow[]): string[] =>
  rows.filter(isDifference).map(({ key, is, byMs, why }) => `${key} ${is} ${byMs / 1000}${why && ` ${why}`}`);

describe('a log beside what aired', () => {
  it('is the same where everything aired, told by its id, its cart or its name', () => {
    expect(differences(all(hour.map((row) => played(row))))).toEqual([]);
    const renamed = hour.map((row) => played(row, { title: '???', entryId: row.id }));
    expect(differences(all(renamed))).toEqual([]);
  });

  it('names every fault: lost, late, cut short, added, moved', () => {
    const rows = hour.map((row) => played(row));
    const lost = rows.splice(3, 1);
    rows[7] = played(hour[8]!, { startMs: hour[8]!.startMs + 90_000 });
    rows[9] = played(hour[10]!, { endMs: hour[10]!.startMs + 20_000, ended: 'skipped' });
    rows.push(played(plan('x', T0 + 40 * MINUTE, 'New'), { key: 'own', by: 'presenter' }));
    expect(lost).toHaveLength(1);
    const found = all(rows, [{ key: 'm', atMs: 0, entryId: 'e3', title: '', why: 'file missing' }]);
    expect(differences(found)).toEqual([
      'p:e3 not aired 0 file missing',
      'p:e8 late 90',
      'p:e10 cut short 0',
      'a:own added 0',
    ]);
  });

  it('names where a log begins to run late, not the rows that go on so', () => {
    const shifted = hour.map((row, n) =>
      played(row, { startMs: row.startMs + (n < 5 ? 0 : n < 12 ? 120_000 : 20_000) }),
    );
    expect(differences(all(shifted))).toEqual(['p:e5 late 120']);
    // What follows a lost row is early by its length; that is no second fault.
    const early = hour.flatMap((row, n) =>
      n === 5 ? [] : [played(row, { startMs: row.startMs - (n > 5 ? 180_000 : 0) })],
    );
    expect(differences(all(early))).toEqual(['p:e5 not aired 0']);
  });

  it('tells the passes of one jingle apart by their places', () => {
    const jingles = [0, 1, 2, 3].map((n) => plan(`j${n}`, T0 + n * 15 * MINUTE, 'Jingle'));
    const rows = [jingles[0]!, jingles[2]!, jingles[3]!].map((row) => played(row));
    const found = reconcile(jingles, { rows, missed: [], coveredFromMs: T0, coveredUntilMs: T0 + 60 * MINUTE }, MINUTE);
    expect(differences(found)).toEqual(['p:j1 not aired 0']);
  });

  it('knows nothing of what is outside the as-run', () => {
    const rows = hour.slice(5, 10).map((row) => played(row));
    const covered = { coveredFromMs: hour[5]!.startMs, coveredUntilMs: hour[10]!.startMs };
    const found = reconcile(hour, { rows, missed: [], ...covered }, MINUTE);
    expect(found.map(({ is }) => is).filter((is) => is === 'unknown')).toHaveLength(15);
    expect(differences(found)).toEqual([]);
  });

  it('pairs each row once at most, whatever aired, and counts every accepted play', () => {
    const some = fc.array(fc.tuple(fc.integer({ min: 0, max: 25 }), fc.integer({ min: -300, max: 300 })), {
      maxLength: 30,
    });
    fc.assert(
      fc.property(some, fc.boolean(), (drawn, accepted) => {
        const rows = drawn.map(([n, seconds], k) =>
          played(plan('', T0 + n * 3 * MINUTE, `e${n}`), {
            key: `k${k}`,
            startMs: T0 + n * 3 * MINUTE + seconds * 1000,
          }),
        );
        const found = all(rows);
        expect(new Set(found.map(({ key }) => key)).size).toBe(found.length);
        const aired = found.flatMap((row) => (row.aired ? [row.aired] : []));
        expect(aired.map(({ key }) => key).sort()).toEqual(rows.map(({ key }) => key).sort());
        const plays = airedPlays(found, () => (accepted ? 'accepted' : null));
        const wanted = accepted ? rows.length : hour.length;
        expect(plays).toHaveLength(wanted);
        if (accepted)
          expect(plays.map(({ startMs }) => startMs).sort()).toEqual(rows.map(({ startMs }) => startMs).sort());
      }),
    );
  });
});

describe('an as-run log', () => {
  const rows = hour.slice(0, 4).map((row) => played(row, { cart: row.id.toUpperCase() }));
  const asRun: AsRun = {
    rows,
    missed: [{ key: 'm', atMs: T0, entryId: 'e9', title: 'Lost', why: 'file missing' }],
    coveredUntilMs: T0 + 12 * MINUTE,
  };

  it('is read as JSON, as text by its layout and as CSV, and the same plays are not taken twice', () => {
    const json = JSON.stringify({ format: 'fuller-as-run', version: 1, date: DATE, ...asRun });
    const text = writeAsRunText(asRun, { station: 'Vale', date: DATE, timeZone: 'Europe/Dublin' });
    const csv = `Start;Length;Artist;Title\r\n${rows.map((row) => `${new Date(row.startMs).toISOString().slice(11, 19)};3:00;${row.artist.toUpperCase()};${row.title}`).join('\r\n')}\r\n`;
    for (const given of [json, text, csv]) {
      const read = readAsRun(given, { ...ABOUT, layout: given === text ? AS_RUN_LAYOUT : null });
      if (!read.ok) throw new Error(read.why);
      expect(read.asRun.rows.map(({ startMs, endMs }) => [startMs, endMs])).toEqual(
        rows.map(({ startMs, endMs }) => [startMs, endMs]),
      );
      expect(unknownRows(rows, read.asRun.rows)).toEqual([]);
      expect(unknownRows([], read.asRun.rows)).toHaveLength(4);
    }
    expect(text).toContain('# not played: Lost (file missing)');
  });

  it('that is wrong is refused with its line', () => {
    expect(readAsRun('Start,Title\n25:99,Song\n', { ...ABOUT, layout: null })).toMatchObject({ ok: false, line: 2 });
    expect(readAsRun('a,b\n1,2\n', { ...ABOUT, layout: null })).toMatchObject({ ok: false });
    expect(
      readAsRun(JSON.stringify({ format: 'fuller-as-run', version: 1, date: '2026-01-01', ...asRun }), ABOUT),
    ).toMatchObject({
      ok: false,
      why: 'The file is for 2026-01-01.',
    });
  });

  it('of a night with an hour that comes twice keeps its order', () => {
    const csv = 'start,duration,title\n00:30:00,60,a\n01:30:00,60,b\n01:10:00,60,c\n02:00:00,60,d\n';
    const read = readAsRun(csv, { ...ABOUT, date: '2026-10-25', fromMs: 0, layout: null });
    if (!read.ok) throw new Error(read.why);
    const hours = read.asRun.rows.map(({ startMs }) => new Date(startMs).toISOString().slice(11, 16));
    expect(hours).toEqual(['23:30', '00:30', '01:10', '02:00']);
  });
});

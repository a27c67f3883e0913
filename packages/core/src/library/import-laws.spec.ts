import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { bulkChange, type BulkEdit, type EditedItem } from './bulk-edit.js';
import { planImport, type ExistingItem } from './import-plan.js';
import type { ItemDraft } from './import-row.js';

const word = fc.constantFrom('Ember', 'ember', 'Harbour', 'Réalta', 'Realta', 'Lantern');
const maybe = <T>(one: fc.Arbitrary<T>) => fc.option(one, { nil: null });
const NOTHING = {
  year: null,
  durationMs: null,
  introMs: null,
  outroMs: null,
  category: null,
  kind: null,
  isrc: null,
  label: null,
  notes: null,
  startDate: null,
  endDate: null,
};
const draft: fc.Arbitrary<Omit<ItemDraft, 'row'>> = fc
  .record({
    title: word,
    artist: maybe(fc.constantFrom('Ada', 'Maeve')),
    album: maybe(fc.constantFrom('Coals')),
    cart: maybe(fc.constantFrom('C1', 'C2', 'C3')),
    file: maybe(fc.constantFrom('a.wav', 'b.wav')),
    year: maybe(fc.integer({ min: 1990, max: 1993 })),
    tags: fc.constantFrom<ItemDraft['tags'][]>({}, { mood: ['bright'] }, { mood: [] }),
  })
  .map((some) => ({ ...NOTHING, ...some }));
const drafts = fc
  .array(draft, { maxLength: 10 })
  .map((rows) => rows.map((one, at): ItemDraft => ({ ...one, row: at + 2 })));

/** The library after a plan was written, as the server writes it. */
function written(plan: ReturnType<typeof planImport>, existing: readonly ExistingItem[]): ExistingItem[] {
  const added = plan.added.map((one): ExistingItem => ({
    ...one,
    id: `new-${one.row}`,
    artist: one.artist ?? '',
    album: one.album ?? '',
    kind: one.kind ?? 'song',
    durationMs: one.durationMs ?? 0,
    notes: one.notes ?? '',
  }));
  const changed = existing.map((item) => {
    const change = plan.changed.find(({ itemId }) => itemId === item.id);
    if (!change) return item;
    const tags = { ...item.tags };
    const fields: Record<string, unknown> = {};
    for (const { field, after } of change.changes) {
      if (field.startsWith('tag:')) tags[field.slice(4)] = after as string[];
      else fields[field] = after;
    }
    return { ...item, ...fields, tags };
  });
  return [...changed, ...added];
}

describe('an import', () => {
  it('takes every row once: as new, as a change, as the same, or not at all', () => {
    fc.assert(
      fc.property(drafts, drafts, (before, rows) => {
        const existing = written(planImport(before, []), []);
        const { added, changed, unchanged, rejected } = planImport(rows, existing);
        const taken = [
          ...added.map((one) => one.row),
          ...changed.map((one) => one.draft.row),
          ...unchanged.map((one) => one.draft.row),
          ...rejected.map((one) => one.row),
        ];
        expect(taken.sort((a, b) => a - b)).toEqual(rows.map(({ row }) => row));
        for (const { changes } of changed) expect(changes.length).toBeGreaterThan(0);
      }),
    );
  });

  it('of the same rows again adds and changes nothing', () => {
    fc.assert(
      fc.property(drafts, (rows) => {
        const first = planImport(rows, []);
        const again = planImport(first.added, written(first, []));
        expect([again.added, again.changed, again.rejected]).toEqual([[], [], []]);
        expect(again.unchanged).toHaveLength(first.added.length);
      }),
    );
  });

  it('changes an item once, whatever ways rows have to name it', () => {
    const existing = written(
      planImport(
        [{ ...NOTHING, row: 2, title: 'Ember', artist: null, album: null, cart: 'C1', file: 'a.wav', tags: {} }],
        [],
      ),
      [],
    );
    const row = { ...NOTHING, title: 'Glow', artist: null, album: null, tags: {} };
    const { changed, rejected } = planImport(
      [
        { ...row, row: 2, cart: 'C1', file: null },
        { ...row, row: 3, cart: null, file: 'a.wav' },
      ],
      existing,
    );
    expect(changed).toHaveLength(1);
    expect(rejected).toEqual([{ row: 3, column: '', why: 'about the same item as row 2' }]);
  });

  it('changes just what rows say, so that a second look finds nothing to change', () => {
    fc.assert(
      fc.property(drafts, drafts, (before, rows) => {
        const existing = written(planImport(before, []), []);
        const plan = planImport(rows, existing);
        const after = written(plan, existing);
        for (const { itemId, draft: row } of plan.changed) {
          const item = after.find(({ id }) => id === itemId)!;
          expect(item.title).toBe(row.title);
          if (row.year !== null) expect(item.year).toBe(row.year);
          if (row.artist === null) expect(item.artist).toBe(existing.find(({ id }) => id === itemId)!.artist);
        }
      }),
    );
  });
});

describe('one change to many items', () => {
  const item: fc.Arbitrary<EditedItem> = fc.record({
    title: fc.constantFrom('Ember (live)', 'ember', 'a.b*c', ''),
    year: maybe(fc.integer({ min: 1990, max: 1992 })),
    tags: fc.constantFrom({}, { mood: ['bright'] }, { mood: ['bright', 'dusky'], era: ['1990s'] }),
  }) as fc.Arbitrary<EditedItem>;
  const edit: fc.Arbitrary<BulkEdit> = fc.oneof(
    fc.record({
      do: fc.constant('set' as const),
      field: fc.constant('year'),
      value: maybe(fc.integer({ min: 1990, max: 1992 })),
    }),
    fc.record({
      do: fc.constant('replace' as const),
      field: fc.constant('title' as const),
      find: fc.constantFrom('(live)', '.', '*', 'EMBER', '$&'),
      by: fc.constantFrom('', '$1', 'x'),
    }),
    fc.record({
      do: fc.constant('tag' as const),
      family: fc.constant('mood'),
      how: fc.constantFrom('add' as const, 'remove' as const, 'set' as const),
      values: fc.subarray(['bright', 'dusky', 'late']),
    }),
  );
  const after = (one: EditedItem, change: NonNullable<ReturnType<typeof bulkChange>>): EditedItem =>
    ({ ...one, [change.field]: change.after }) as EditedItem;

  it('made twice is made once', () => {
    fc.assert(
      fc.property(item, edit, (one, what) => {
        // A text that is put in its own place would grow for ever.
        fc.pre(what.do !== 'replace' || !what.by.toLowerCase().includes(what.find.toLowerCase()));
        const change = bulkChange(one, what);
        if (change === null) return;
        expect(bulkChange(after(one, change), what)).toBeNull();
      }),
    );
  });

  it('tells what was there before, and leaves everything else as it is', () => {
    fc.assert(
      fc.property(item, edit, (one, what) => {
        const change = bulkChange(one, what);
        if (change === null) return;
        expect(change.before).toEqual(one[change.field] ?? null);
        expect(change.after).not.toEqual(change.before);
        const { mood: _, ...others } = one.tags;
        if (what.do === 'tag') expect(change.after).toMatchObject(others);
      }),
    );
  });

  it('puts a text in as it is written, with no sense of its own', () => {
    const replaced = bulkChange({ title: 'a.b*c', tags: {} }, { do: 'replace', field: 'title', find: '.', by: '$&$1' });
    expect(replaced?.after).toBe('a$&$1b*c');
  });

  it('takes a family away with its last value', () => {
    const change = bulkChange(
      { tags: { mood: ['bright'], era: ['1990s'] } },
      { do: 'tag', family: 'mood', how: 'remove', values: ['bright'] },
    );
    expect(change?.after).toEqual({ era: ['1990s'] });
  });
});

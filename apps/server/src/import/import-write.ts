import type { ImportOptions, ImportSummary } from '@fuller/contracts';
import { visibleSql } from '../db/dialect/sqlite/visible-sql.js';
import {
  BAND_COLOURS,
  foldText,
  nameKey,
  type ExistingItem,
  type ImportPlan,
  type ItemDraft,
  type ItemKind,
} from '@fuller/core';
import { ItemEntity, TagFamilyEntity } from '../db/entities/index.js';
import { notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { RunningJob } from '../jobs/job-runner.js';
import type { DraftedRows } from '../jobs/tasks.js';
import type { ChangeSet, Row } from '../store/change-set.js';
import { addCredits, recredit } from '../library/credits.js';
import { keepFamilies } from '../tags/family-service.js';
import { folds, newItemRow } from '../library/library-service.js';
import type { Batches, Store } from '../store/store.js';

const SHOWN_ROWS = 200;
const EXISTING = `select id, kind, title, artist, album, year, duration_ms as durationMs, intro_ms as introMs,
  outro_ms as outroMs, cart, file, isrc, label, notes, start_date as startDate, end_date as endDate, tags from item`;

/** The library as an import looks at it; inside a write it is read through that write. */
export async function existingItems(store: Store, changes?: ChangeSet): Promise<ExistingItem[]> {
  const rows = await store.rows<Omit<ExistingItem, 'tags'> & { tags: string }>(EXISTING, [], changes?.em);
  return rows.map((row) => ({ ...row, tags: JSON.parse(row.tags) as ExistingItem['tags'] }));
}

/** So many items are written at once; then others have their turn. */
const BATCH = 1000;

interface WriteOptions {
  readonly category: string | null;
  readonly options: ImportOptions;
  readonly job: RunningJob;
}

/** Writes what an import has planned; `category` is where items go whose row names none. */
export async function writePlan(
  batches: Batches,
  stationId: string,
  plan: ImportPlan,
  { category, options, job }: WriteOptions,
): Promise<void> {
  const categoryIds = await batches.batch(async (changes) => {
    const known = await categoriesByKey(changes, stationId);
    if (category !== null && !known.has(foldText(category))) throw notFound('category', category);
    await keepFamilies(
      changes,
      tagsOf([...plan.added, ...plan.changed.map(({ draft }) => draft)].sort((a, b) => a.row - b.row)),
    );
    if (!options.makeCategories) return known;
    await makeCategories(changes, stationId, missingCategories(plan.added, known));
    return categoriesByKey(changes, stationId);
  });
  const total = plan.added.length + plan.changed.length;
  let written = 0;
  const step = async (size: number, work: (changes: ChangeSet) => Promise<void>): Promise<void> => {
    job.signal.throwIfAborted();
    await batches.batch(work);
    written += size;
    job.progress(0.4 + (0.6 * written) / Math.max(1, total), `Writing, ${written} of ${total} items`);
  };
  for (let from = 0; from < plan.added.length; from += BATCH) {
    const drafts = plan.added.slice(from, from + BATCH);
    await step(drafts.length, (changes) => addItems(changes, drafts, categoryIds, category));
  }
  for (let from = 0; from < plan.changed.length; from += BATCH) {
    const part = plan.changed.slice(from, from + BATCH);
    await step(part.length, async (changes) => {
      for (const { itemId, changes: fields } of part) await changeItem(changes, itemId, fields);
    });
  }
}

async function addItems(
  changes: ChangeSet,
  drafts: readonly ItemDraft[],
  categoryIds: ReadonlyMap<string, string>,
  category: string | null,
): Promise<void> {
  const rows = drafts.map((draft) => ({ draft, row: newItemRow(itemFields(draft)) }));
  await changes.insert(
    'item',
    rows.map(({ row }) => row),
  );
  await addCredits(
    changes,
    rows.map(({ row, draft }) => ({ itemId: row.id, artist: draft.artist ?? '' })),
  );
  const placements = rows.flatMap(({ row, draft }): Row[] => {
    const categoryId = categoryIds.get(foldText(draft.category ?? category ?? ''));
    return categoryId ? [{ id: newId(), itemId: row.id, categoryId }] : [];
  });
  await changes.insert('placement', placements);
}

async function changeItem(
  changes: ChangeSet,
  itemId: string,
  fields: ImportPlan['changed'][number]['changes'],
): Promise<void> {
  const patch: Record<string, unknown> = {};
  const tags: Record<string, readonly string[]> = {};
  for (const { field, after } of fields) {
    if (field.startsWith('tag:')) tags[field.slice(4)] = after as readonly string[];
    else patch[field] = after;
  }
  if (Object.keys(tags).length > 0) {
    const item = await changes.em.findOneOrFail(ItemEntity, { id: itemId }, { disableIdentityMap: true });
    patch['tags'] = { ...item.tags, ...tags };
  }
  await changes.update('item', itemId, { ...patch, ...folds(patch) });
  if (typeof patch['artist'] === 'string') await recredit(changes, itemId, patch['artist']);
}

/** What an import does or would do, with the first rows of each kind. */
export async function summarise(
  store: Store,
  stationId: string,
  rows: DraftedRows,
  plan: ImportPlan,
  changes?: ChangeSet,
): Promise<ImportSummary> {
  const known = await categoriesByKey(changes ?? store, stationId);
  const rejected = [...rows.rejected, ...plan.rejected].sort((a, b) => a.row - b.row);
  return {
    read: rows.read,
    added: plan.added.length,
    changed: plan.changed.length,
    unchanged: plan.unchanged.length,
    rejected: new Set(rejected.map((error) => error.row)).size,
    withoutLength: plan.added.filter(({ durationMs }) => !durationMs).length,
    unknownCategories: missingCategories(rows.drafts, known).slice(0, SHOWN_ROWS),
    newValues: await newValues(changes?.em ?? store.read, rows.drafts),
    addedRows: plan.added
      .slice(0, SHOWN_ROWS)
      .map(({ row, title, artist, durationMs }) => ({ row, title, artist: artist ?? '', durationMs })),
    changedRows: plan.changed.slice(0, SHOWN_ROWS).map(({ draft, changes: fields }) => ({
      row: draft.row,
      title: draft.title,
      changes: fields.map(({ field, before, after }) => ({
        field: field.replace(/^tag:/, ''),
        before: plainValue(before),
        after: plainValue(after),
      })),
    })),
    rejectedRows: rejected.slice(0, SHOWN_ROWS),
  };
}

function plainValue(value: string | number | null | readonly string[]): string | number | null | string[] {
  return typeof value === 'object' && value !== null ? [...value] : value;
}

function missingCategories(drafts: readonly ItemDraft[], known: ReadonlyMap<string, string>): string[] {
  const named = new Set(drafts.flatMap((draft) => (draft.category ? [draft.category] : [])));
  const missing = new Map<string, string>();
  for (const name of named)
    if (!known.has(foldText(name)) && !missing.has(foldText(name))) missing.set(foldText(name), name);
  return [...missing.values()];
}

/** Every value that drafts have, by family. */
function tagsOf(drafts: readonly ItemDraft[]): Record<string, string[]> {
  const used = new Map<string, Set<string>>();
  for (const { tags } of drafts) {
    for (const [family, values] of Object.entries(tags)) {
      const known = used.get(family) ?? new Set<string>();
      for (const value of values) known.add(value);
      used.set(family, known);
    }
  }
  return Object.fromEntries([...used].map(([family, values]) => [family, [...values]]));
}

async function newValues(em: Store['read'], drafts: readonly ItemDraft[]): Promise<ImportSummary['newValues']> {
  const used = tagsOf(drafts);
  if (Object.keys(used).length === 0) return [];
  const families = await em.find(TagFamilyEntity, {}, { disableIdentityMap: true });
  const known = new Map(families.map(({ name, values }) => [name, new Set(values.map(({ value }) => value))]));
  return Object.entries(used)
    .flatMap(([family, values]) =>
      values.filter((value) => !known.get(family)?.has(value)).map((value) => ({ family, value })),
    )
    .slice(0, SHOWN_ROWS);
}

/** Makes own music categories of the station, each with a code and a colour of its own. */
async function makeCategories(changes: ChangeSet, stationId: string, names: readonly string[]): Promise<void> {
  const taken = new Set(
    ((await changes.em.execute('select code_key as code from category')) as { code: string }[]).map(({ code }) => code),
  );
  const [last] = (await changes.em.execute('select coalesce(max(position), 0) as position from category')) as {
    position: number;
  }[];
  const rows = names.map((name, index) => {
    const code = freeCode(name, taken);
    taken.add(foldText(code));
    return {
      id: newId(),
      revision: 1,
      scope: 'station',
      stationId,
      groupId: null,
      name,
      nameKey: nameKey(name),
      code,
      codeKey: foldText(code),
      colour: BAND_COLOURS[index % BAND_COLOURS.length],
      music: true,
      turnOrder: 'even',
      approvedOnly: false,
      position: last!.position + 1 + index,
    };
  });
  await changes.insert('category', rows);
}

/** The shortest beginning of a name that no category has as its code, else one with a number. */
function freeCode(name: string, taken: ReadonlySet<string>): string {
  const letters = [...name.toUpperCase().replace(/[^\p{L}\p{N}]+/gu, '')];
  for (let length = 1; length <= Math.min(4, letters.length); length++) {
    const code = letters.slice(0, length).join('');
    if (!taken.has(foldText(code))) return code;
  }
  for (let n = 1; ; n++) {
    const code = `${letters[0] ?? 'C'}${n}`;
    if (!taken.has(foldText(code))) return code;
  }
}

function itemFields(draft: ItemDraft): Parameters<typeof newItemRow>[0] {
  const { title, year, introMs, outroMs, cart, file, isrc, label, startDate, endDate, tags } = draft;
  return {
    title,
    year,
    introMs,
    outroMs,
    cart,
    file,
    isrc,
    label,
    startDate,
    endDate,
    tags,
    kind: draft.kind ?? ('song' satisfies ItemKind),
    artist: draft.artist ?? '',
    album: draft.album ?? '',
    durationMs: draft.durationMs ?? 0,
    notes: draft.notes ?? '',
  };
}

/** Categories a station sees, by folded name and by folded code. */
async function categoriesByKey(from: Store | ChangeSet, stationId: string): Promise<Map<string, string>> {
  const sql = `select id, name, code from category c where ${visibleSql('c')}`;
  const rows = ('em' in from ? await from.em.execute(sql, [stationId]) : await from.rows(sql, [stationId])) as {
    id: string;
    name: string;
    code: string;
  }[];
  return new Map(rows.flatMap((row) => [[foldText(row.code), row.id] as const, [foldText(row.name), row.id] as const]));
}

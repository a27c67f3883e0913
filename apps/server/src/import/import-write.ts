import type { ImportOptions } from '@fuller/contracts';
import { foldText, type ImportPlan, type ItemDraft, type ItemKind } from '@fuller/core';
import { ItemEntity } from '../db/entities/index.js';
import { notFound } from '../errors.js';
import { placementRow } from '../categories/placement-row.js';
import type { RunningJob } from '../jobs/job-runner.js';
import { addCredits, creditOf, recredit } from '../library/credits.js';
import { folds, newItemRow } from '../library/item-row.js';
import type { Batches } from '../store/batch-writer.js';
import type { ChangeSet, Row } from '../store/change-set.js';
import { keepFamilies } from '../tags/family-service.js';
import { categoriesByKey, makeCategories, missingCategories } from './import-categories.js';
import { tagsOf } from './import-summary.js';

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
    const known = await categoriesByKey(changes.em, stationId);
    if (category !== null && !known.has(foldText(category))) throw notFound('category', category);
    await keepFamilies(
      changes,
      tagsOf([...plan.added, ...plan.changed.map(({ draft }) => draft)].sort((a, b) => a.row - b.row)),
    );
    if (!options.makeCategories) return known;
    await makeCategories(changes, stationId, missingCategories(plan.added, known));
    return categoriesByKey(changes.em, stationId);
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
    rows.map(({ row, draft }) => ({ itemId: row.id, artist: creditOf(draft.kind ?? 'song', draft.artist ?? '') })),
  );
  const placements = rows.flatMap(({ row, draft }): Row[] => {
    const categoryId = categoryIds.get(foldText(draft.category ?? category ?? ''));
    return categoryId ? [placementRow(changes, row.id, categoryId)] : [];
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

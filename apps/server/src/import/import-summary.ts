import type { ImportSummary } from '@fuller/contracts';
import type { ImportPlan, ItemDraft } from '@fuller/core';
import { TagFamilyEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import type { DraftedRows } from '../jobs/tasks.js';
import { categoriesByKey, missingCategories } from './import-categories.js';

const SHOWN_ROWS = 200;

/** What an import does or would do, with the first rows of each kind. */
export async function summarise(
  em: Em,
  stationId: string,
  rows: DraftedRows,
  plan: ImportPlan,
): Promise<ImportSummary> {
  const known = await categoriesByKey(em, stationId);
  const rejected = [...rows.rejected, ...plan.rejected].sort((a, b) => a.row - b.row);
  return {
    read: rows.read,
    added: plan.added.length,
    changed: plan.changed.length,
    unchanged: plan.unchanged.length,
    rejected: new Set(rejected.map((error) => error.row)).size,
    withoutLength: plan.added.filter(({ durationMs }) => !durationMs).length,
    unknownCategories: missingCategories(rows.drafts, known).slice(0, SHOWN_ROWS),
    newValues: await newValues(em, rows.drafts),
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

async function newValues(em: Em, drafts: readonly ItemDraft[]): Promise<ImportSummary['newValues']> {
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

/** Every value that drafts have, by family. */
export function tagsOf(drafts: readonly ItemDraft[]): Record<string, string[]> {
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

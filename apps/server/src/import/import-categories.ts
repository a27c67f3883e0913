import { bandColour, foldText, type ItemDraft } from '@fuller/core';
import { newCategoryRow } from '../categories/new-category-row.js';
import { nextPosition } from '../db/queries/categories.js';
import { CategoryEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { visibleTo } from '../db/visible.js';
import type { ChangeSet } from '../store/change-set.js';

/** Categories a station sees, by folded name and by folded code. */
export async function categoriesByKey(em: Em, stationId: string): Promise<Map<string, string>> {
  const rows = await em.find(CategoryEntity, visibleTo(stationId), { disableIdentityMap: true });
  return new Map(rows.flatMap((row) => [[foldText(row.code), row.id] as const, [foldText(row.name), row.id] as const]));
}

/** Categories that drafts name and that are not there, in the order they are first named. */
export function missingCategories(drafts: readonly ItemDraft[], known: ReadonlyMap<string, string>): string[] {
  const named = new Set(drafts.flatMap((draft) => (draft.category ? [draft.category] : [])));
  const missing = new Map<string, string>();
  for (const name of named)
    if (!known.has(foldText(name)) && !missing.has(foldText(name))) missing.set(foldText(name), name);
  return [...missing.values()];
}

/** Makes own music categories of the station, each with a code and a colour of its own. */
export async function makeCategories(changes: ChangeSet, stationId: string, names: readonly string[]): Promise<void> {
  const held = await changes.em.find(CategoryEntity, {}, { disableIdentityMap: true });
  const taken = new Set(held.map(({ codeKey }) => codeKey));
  const position = await nextPosition(changes.em, 'category');
  const rows = names.map((name, index) => {
    const code = freeCode(name, taken);
    taken.add(foldText(code));
    return newCategoryRow(stationId, { name, code, colour: bandColour(index), position: position + index });
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

import { newId } from '../ids.js';
import type { ChangeSet, Row } from '../store/change-set.js';

/** An item’s new place in a category, from today on. */
export function placementRow({ date }: ChangeSet, itemId: string, categoryId: string): Row {
  return { id: newId(), itemId, categoryId, since: date, planned: null };
}

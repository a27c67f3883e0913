import { dueMove, type Placed } from '../rotation/life.js';
import type { StationData } from './station-data.js';

/** A song whose category changes for good in so many steps can have no end; a circle stops here. */
const MOST_STEPS = 12;

type Moving = Pick<StationData, 'categories' | 'placed' | 'lives'>;

/**
 * The station as it stands on a date: songs whose time in a category is over by then are where they go next. The same data
 * where nothing moves. Counts of plays are those known, so what depends on them moves once they are reached.
 */
export function movedTo<D extends Moving>(data: D, date: string): D {
  const { placed = {}, lives = {} } = data;
  const out = new Map<string, Set<string>>();
  const into = new Map<string, string[]>();
  const now: Record<string, Placed> = { ...placed };
  let moved = false;
  for (const [itemId, first] of Object.entries(placed)) {
    let place = first;
    for (let step = 0; step < MOST_STEPS; step++) {
      const due = dueMove(place, lives[place.categoryId], { today: date });
      if (!due || due.date > date || due.to === place.categoryId) break;
      moved = true;
      if (due.to === null) {
        delete now[itemId];
        place = { ...place, categoryId: '' };
        break;
      }
      place = { categoryId: due.to, since: due.date, planned: null, plays: 0 };
      now[itemId] = place;
    }
    if (place.categoryId === first.categoryId) continue;
    setIn(out, first.categoryId).add(itemId);
    if (place.categoryId !== '') into.set(place.categoryId, [...(into.get(place.categoryId) ?? []), itemId]);
  }
  if (!moved) return data;
  const categories: Record<string, readonly string[]> = { ...data.categories };
  for (const [id, leaving] of out) categories[id] = (categories[id] ?? []).filter((itemId) => !leaving.has(itemId));
  for (const [id, coming] of into) {
    const there = categories[id] ?? [];
    categories[id] = [...there, ...coming.filter((itemId) => !there.includes(itemId))];
  }
  return { ...data, categories, placed: now };
}

/** The station after some plays more: what leaves a category after so many is counted on. */
export function withPlaysCounted(data: StationData, itemIds: readonly string[]): StationData {
  const { placed = {} } = data;
  const counted = itemIds.filter((id) => Object.hasOwn(placed, id));
  if (counted.length === 0) return data;
  const now: Record<string, Placed> = { ...placed };
  for (const id of counted) {
    const place = now[id];
    if (place) now[id] = { ...place, plays: place.plays + 1 };
  }
  return { ...data, placed: now };
}

function setIn(sets: Map<string, Set<string>>, key: string): Set<string> {
  let set = sets.get(key);
  if (!set) sets.set(key, (set = new Set()));
  return set;
}

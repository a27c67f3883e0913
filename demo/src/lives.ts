import { addDays, type Life, type PlannedMove } from '@fuller/core';
import { CategoryEntity, PlacementEntity, type Services } from '@fuller/server';

/** Songs stay half a year at most among the others of their age. */
const LIVES: Readonly<Record<string, Life>> = { 'cat-b': { after: 20, unit: 'weeks', to: 'cat-r' } };
/** Longer than any song has been in a category by now. */
const WEEKS_SINCE = 19;
/** Songs of the first category that a person has planned to move on, and in how many days. */
const PLANNED = { from: 'cat-f', to: 'cat-b', inDays: [0, 9, 16, 23] } as const;

/** Since when songs are in their categories, how long they stay, and what is planned for a few. */
export async function addLives({ store }: Services, today: string): Promise<void> {
  await store.writeUnrecorded(async (em) => {
    for (const [id, life] of Object.entries(LIVES)) await em.nativeUpdate(CategoryEntity, { id }, { life });
    const places = await em.find(PlacementEntity, {}, { orderBy: { id: 'asc' }, disableIdentityMap: true });
    const since = (n: number): string =>
      addDays(today, -7 - Math.floor(((n * 37) % 100) * 0.01 * 7 * (WEEKS_SINCE - 1)));
    const byDate = new Map<string, string[]>();
    for (const [n, { id }] of places.entries()) byDate.set(since(n), [...(byDate.get(since(n)) ?? []), id]);
    for (const [date, ids] of byDate) await em.nativeUpdate(PlacementEntity, { id: { $in: ids } }, { since: date });
    const young = places.filter(({ categoryId }) => categoryId === PLANNED.from);
    for (const [n, days] of PLANNED.inDays.entries()) {
      const planned: PlannedMove = { kind: 'on', date: addDays(today, days), to: PLANNED.to };
      const place = young[3 * n + 1];
      if (place) await em.nativeUpdate(PlacementEntity, { id: place.id }, { planned });
    }
  });
}

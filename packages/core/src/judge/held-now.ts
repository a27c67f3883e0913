import { lookUp } from '../values/look-up.js';
import { tooSoonBy } from '../rules/apart/apart.js';
import { amountInCategory } from '../rules/rule.js';
import type { StationModel } from '../station/station-model.js';
import type { StationPlay } from '../station/station-data.js';

/** A separation that keeps an item from playing at an instant. */
export interface HeldNow {
  readonly ruleId: string;
  /** What played too short a while ago, and when it ended; UTC epoch milliseconds. */
  readonly otherId: string;
  readonly endedMs: number;
  /** When the rule lets the item go. */
  readonly freeMs: number;
}

/** The separations that would hold an item back if it played at an instant, by what has played until then; last to let go first. */
export function heldAt(
  { data, known, tagsOfItem }: StationModel,
  itemId: string,
  categoryId: string | null,
  atMs: number,
  plays: readonly StationPlay[],
): HeldNow[] {
  const item = known.get(itemId);
  if (!item) throw new RangeError(`no item “${itemId}”`);
  // Separations look at music alone, as in a log.
  if (categoryId !== null && !data.musicCategories.includes(categoryId)) return [];
  const tags = lookUp(tagsOfItem, itemId);
  const music = new Set(data.musicCategories.flatMap((id) => data.categories[id] ?? []));
  const before = plays
    .filter((play) => play.startMs <= atMs && (music.has(play.itemId) || play.itemId === itemId))
    .sort((a, b) => b.startMs - a.startMs);
  const held = data.rules.flatMap((rule): HeldNow[] => {
    const asked = rule.shape === 'apart' && !rule.resting ? amountInCategory(rule, categoryId) : null;
    if (asked === null) return [];
    const values = (tags[rule.tag] ?? []).filter((value) => rule.value === null || rule.value === value);
    const last = before.find((play) => {
      const other = known.get(play.itemId);
      return other && (lookUp(tagsOfItem, play.itemId)[rule.tag] ?? []).some((value) => values.includes(value));
    });
    if (!last) return [];
    const endedMs = last.startMs + lookUp(known, last.itemId).durationMs;
    const by = tooSoonBy(endedMs / 1000, atMs / 1000, asked);
    return by > 0 ? [{ ruleId: rule.id, otherId: last.itemId, endedMs, freeMs: Math.round(atMs + by * 1000) }] : [];
  });
  return held.sort((a, b) => b.freeMs - a.freeMs);
}

import { turnoverHours } from './category.js';

/** What moves come to for a category. */
export interface MoveEffect {
  readonly categoryId: string;
  readonly leave: number;
  readonly come: number;
  readonly songs: { readonly today: number; readonly then: number };
  /** Hours until every song has had its turn; null without slots. */
  readonly turnoverHours: { readonly today: number | null; readonly then: number | null };
}

/** What moves do to the categories they concern, in the order of these. */
export function moveEffects(
  categories: readonly { readonly id: string; readonly items: number; readonly slotsPerWeek: number }[],
  moves: readonly { readonly from: string; readonly to: string | null }[],
): MoveEffect[] {
  return categories.flatMap(({ id, items: today, slotsPerWeek }): MoveEffect[] => {
    const leave = moves.filter(({ from }) => from === id).length;
    const come = moves.filter(({ to }) => to === id).length;
    if (leave + come === 0) return [];
    const then = today - leave + come;
    const hours = (songs: number): number | null => turnoverHours(songs, slotsPerWeek);
    return [
      {
        categoryId: id,
        leave,
        come,
        songs: { today, then },
        turnoverHours: { today: hours(today), then: hours(then) },
      },
    ];
  });
}

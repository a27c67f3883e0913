/** What is to be said of how much a line can draw from. */
export type DrawAdvice =
  | { readonly is: 'enough' }
  /** Nothing fits: the slot stays open. */
  | { readonly is: 'nothing' }
  /** An item comes back sooner than titles may: some slots must stay open. */
  | { readonly is: 'too few'; readonly restSeconds: number; readonly needed: number }
  /** It is just enough, with little left to choose from. */
  | { readonly is: 'tight'; readonly restSeconds: number };

const WEEK_SECONDS = 7 * 86_400;
/** With less than this many times the separation, rules leave little choice. */
const TIGHT = 1.5;

/**
 * Whether items are enough for the slots a week asks of them, when the same title may come back only after so many
 * seconds. With turns taken evenly an item returns every `items / slots` weeks.
 */
export function drawAdvice(items: number, slotsPerWeek: number, titleSeconds: number): DrawAdvice {
  if (items === 0) return { is: 'nothing' };
  if (slotsPerWeek === 0) return { is: 'enough' };
  const restSeconds = (WEEK_SECONDS * items) / slotsPerWeek;
  if (restSeconds < titleSeconds)
    return { is: 'too few', restSeconds, needed: Math.ceil((titleSeconds * slotsPerWeek) / WEEK_SECONDS) };
  return restSeconds < titleSeconds * TIGHT ? { is: 'tight', restSeconds } : { is: 'enough' };
}

/** How a pool chooses its next item. */
export const ORDERS = [
  'even',
  'shuffle',
  'random',
  'weighted',
  'fewestPlays',
  'artistRest',
  'newest',
  'inOrder',
] as const;
/** One of the turn orders of an instance. */
export type Order = (typeof ORDERS)[number];

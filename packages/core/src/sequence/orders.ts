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
export type Order = (typeof ORDERS)[number];

/**
 * What somebody must be allowed to do. `anybody` needs no account, `own` any; `look` reads a station; `traffic` imports
 * and places spots; `present` edits logs within one's own shows; the last three touch the group as a whole.
 */
export const RIGHTS = [
  'anybody',
  'own',
  'look',
  'undo',
  'library',
  'rotation',
  'clocks',
  'rules',
  'logs',
  'hand-over',
  'traffic',
  'present',
  'people',
  'stations',
  'care',
] as const;
export type Right = (typeof RIGHTS)[number];

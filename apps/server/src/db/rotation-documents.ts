import type { Documents } from './document-shape.js';

/** Stored documents of categories and of the songs in them. */
export const ROTATION_DOCUMENTS: readonly Documents[] = [
  {
    table: 'category',
    column: 'cool_off',
    type: 'object',
    instead: null,
    name: 'name',
    told: (name) => `The rest that category “${name}” gives after many plays could not be read. It is not set now.`,
  },
  {
    table: 'category',
    column: 'life',
    type: 'object',
    instead: null,
    name: 'name',
    told: (name) => `How long songs stay in category “${name}” could not be read. It is not set now.`,
  },
  {
    table: 'placement',
    column: 'planned',
    type: 'object',
    instead: null,
    name: '(select title from item where item.id = t.item_id)',
    told: (name) => `What is planned for “${name}” could not be read. Nothing is planned for it now.`,
  },
];

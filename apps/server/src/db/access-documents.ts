import type { Documents } from './document-shape.js';

/** Documents of who is let in. What cannot be read gives no right to anything. */
export const ACCESS_DOCUMENTS: readonly Documents[] = [
  {
    table: 'person',
    column: 'roles',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'name',
    told: (name) => `The roles of ${name} could not be read. They have none now; a director gives them again.`,
  },
  {
    table: 'access_token',
    column: 'rights',
    type: 'array',
    values: 'text',
    instead: '[]',
    name: 'name',
    told: (name) => `The rights of the token “${name}” could not be read. It has none now; make another.`,
  },
  {
    table: 'access_token',
    column: 'station_ids',
    type: 'array',
    values: 'text',
    instead: '[]',
    name: 'name',
    told: (name) => `The stations of the token “${name}” could not be read. It has none now; make another.`,
  },
];

import type { Documents } from './document-shape.js';

/** What rules hold as documents. */
export const RULE_DOCUMENTS: readonly Documents[] = [
  {
    table: 'rule',
    column: 'exceptions',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'tag',
    told: (name) => `The exceptions of a rule about the ${name} could not be read. It has none now.`,
  },
  {
    table: 'rule',
    column: 'places',
    type: 'array',
    values: 'object',
    instead: '[]',
    name: 'tag',
    told: (name) => `The places of a rule about the ${name} could not be read. It applies to the whole station now.`,
  },
  {
    table: 'rule',
    column: 'not_at',
    type: 'array',
    values: 'text',
    instead: '[]',
    name: 'tag',
    told: (name) =>
      `Where a shared rule about the ${name} does not apply could not be read. It applies at every station now.`,
  },
  {
    table: 'rule',
    column: 'station_ids',
    type: 'array',
    values: 'text',
    instead: '[]',
    name: 'tag',
    told: (name) => `The stations of a rule about the ${name} could not be read. It is about all others now.`,
  },
];

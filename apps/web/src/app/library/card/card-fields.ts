import type { ItemCard, ItemPatch } from '@fuller/contracts';
import { formatDuration, isDate, LONGEST_ITEM_MS, parseDuration, PAUSED_FOR_GOOD } from '@fuller/core';

type TextField = 'title' | 'artist' | 'album' | 'isrc' | 'label' | 'cart' | 'file';

/** A fact of an item that is edited as text. */
export interface CardField {
  readonly label: string;
  readonly mono?: boolean;
  value(card: ItemCard): string;
  patch(text: string): Partial<ItemPatch>;
  check?(text: string): string | null;
}

const MAY_BE_EMPTY: readonly TextField[] = ['isrc', 'label', 'cart', 'file'];

function textField(field: TextField, label: string, mono = false): CardField {
  return {
    label,
    mono,
    value: (card) => card[field] ?? '',
    patch: (text) => ({ [field]: text === '' && MAY_BE_EMPTY.includes(field) ? null : text }),
    ...(field === 'title' ? { check: (text: string) => (text === '' ? 'A title cannot be empty.' : null) } : {}),
  };
}

function lengthField(field: 'durationMs' | 'introMs' | 'outroMs' | 'segueMs', label: string): CardField {
  return {
    label,
    mono: true,
    value: (card) => (card[field] === null ? '' : formatDuration(card[field])),
    patch: (text) => ({ [field]: text === '' ? null : parseDuration(text) }),
    check: (text) => {
      if (text === '' && field !== 'durationMs') return null;
      const value = parseDuration(text);
      return value === null || value > LONGEST_ITEM_MS || (field === 'durationMs' && value === 0)
        ? 'Write a length like 3:38.'
        : null;
    },
  };
}

function dateField(field: 'startDate' | 'endDate', label: string): CardField {
  return {
    label,
    mono: true,
    value: (card) => card[field] ?? '',
    patch: (text) => ({ [field]: text === '' ? null : text }),
    check: (text) => (text === '' || isDate(text) ? null : 'Write a date like 2026-11-23.'),
  };
}

export const CARD_FIELDS: readonly CardField[] = [
  textField('title', 'Title'),
  textField('artist', 'Artist'),
  textField('album', 'Album'),
  {
    label: 'Year',
    mono: true,
    value: (card) => (card.year === null ? '' : String(card.year)),
    patch: (text) => ({ year: text === '' ? null : Number(text) }),
    check: (text) => (text === '' || /^(?:18[6-9]|19\d|20\d)\d$/.test(text) ? null : 'Write a year like 1998.'),
  },
  lengthField('durationMs', 'Length'),
  lengthField('introMs', 'Intro'),
  lengthField('outroMs', 'Outro'),
  lengthField('segueMs', 'Segue'),
  dateField('startDate', 'On air from'),
  dateField('endDate', 'On air until'),
  {
    label: 'Pause until',
    mono: true,
    value: ({ pausedUntil }) => (pausedUntil === PAUSED_FOR_GOOD ? 'for good' : (pausedUntil ?? '')),
    patch: (text) => ({ pausedUntil: text === '' ? null : text === 'for good' ? PAUSED_FOR_GOOD : text }),
    check: (text) =>
      text === '' || text === 'for good' || isDate(text) ? null : 'Write a date like 2026-11-23, or: for good.',
  },
  {
    label: 'Weight',
    mono: true,
    value: (card) => (card.weight === 1 ? '' : String(card.weight)),
    patch: (text) => ({ weight: text === '' ? 1 : Number(text) }),
    check: (text) =>
      text === '' || (Number(text) >= 0.1 && Number(text) <= 100) ? null : 'Write a number from 0.1 to 100.',
  },
  textField('cart', 'Cart', true),
  textField('file', 'File', true),
  textField('isrc', 'ISRC', true),
  textField('label', 'Label'),
  { label: 'Notes', value: (card) => card.notes, patch: (text) => ({ notes: text }) },
];

const MOST_LETTERS = 60;

/** Values between commas, each once. */
export function tagValues(text: string): string[] {
  return [
    ...new Set(
      text
        .split(',')
        .map((value) => value.trim())
        .filter(Boolean),
    ),
  ];
}

export function checkTags(text: string): string | null {
  return tagValues(text).every((value) => value.length <= MOST_LETTERS)
    ? null
    : `A value has at most ${MOST_LETTERS} letters.`;
}

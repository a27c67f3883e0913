import { COLUMN_MEANINGS, type ColumnMeaning } from '@fuller/core';

export const MEANING_WORDS: Readonly<Record<ColumnMeaning, string>> = {
  time: 'Time',
  length: 'Length',
  cart: 'Cart',
  sponsor: 'Sponsor',
  title: 'Title',
  product: 'Product code',
  sequence: 'Place in break',
  date: 'Date',
  artist: 'Artist',
  file: 'File',
  kind: 'Kind',
  cue: 'Cue',
};

/** Stands for a column that is not needed. */
export const NOTHING = 'nothing';
export const MEANING_OPTIONS = [
  { value: NOTHING, label: 'Not needed' },
  ...COLUMN_MEANINGS.map((value) => ({ value, label: MEANING_WORDS[value] })),
];

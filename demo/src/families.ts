import { elementAt, nameKey, type TagValue } from '@fuller/core';
import type { DemoItem } from './library.js';

/** What people here call the values, where it is more than the value itself, and the order they think of them in. */
const ORDERED: Readonly<Record<string, readonly (readonly [string, string])[]>> = {
  tempo: [
    ['1', 'slow'],
    ['2', 'easy'],
    ['3', 'mid'],
    ['4', 'up'],
    ['5', 'fast'],
  ],
  language: [
    ['ga', 'GA'],
    ['en', 'EN'],
    ['pt', 'PT'],
  ],
};
const TEMPO_COLOURS = ['#1F6FA8', '#2E8B6F', '#9A7B1C', '#D1862B', '#B5476B'];
const SINGLE = ['tempo', 'voice', 'language'];

/** The tag families of the demo items with every value they have. */
export function tagFamilies(items: readonly DemoItem[]): (Record<string, unknown> & { id: string })[] {
  const used = new Map<string, Set<string>>();
  for (const { tags } of items) {
    for (const [family, values] of Object.entries(tags)) {
      const known = used.get(family) ?? new Set<string>();
      for (const value of values) known.add(value);
      used.set(family, known);
    }
  }
  return [...used].map(([name, values], position) => ({
    id: `family-${name}`,
    revision: 1,
    name,
    nameKey: nameKey(name),
    single: SINGLE.includes(name),
    values: valuesOf(name, [...values].sort()),
    position,
  }));
}

function valuesOf(family: string, used: readonly string[]): TagValue[] {
  const ordered = ORDERED[family] ?? [];
  const rest = used.filter((value) => !ordered.some(([one]) => one === value));
  return [
    ...ordered.map(([value, code], at) => ({
      value,
      code,
      colour: family === 'tempo' ? elementAt(TEMPO_COLOURS, at) : null,
    })),
    ...rest.map((value) => ({ value, code: '', colour: null })),
  ];
}

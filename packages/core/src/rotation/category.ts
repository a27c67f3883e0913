import type { Scope } from '../library/item.js';

/** How a category chooses its next item. */
export const TURN_ORDERS = [
  'even',
  'shuffle',
  'random',
  'weighted',
  'fewest plays',
  'artist rest',
  'newest',
  'in order',
] as const;
/** How a category chooses its next item. */
export type TurnOrder = (typeof TURN_ORDERS)[number];

/** A set of items that share a turn order; the unit of rotation. */
export interface Category {
  readonly id: string;
  readonly scope: Scope;
  readonly name: string;
  readonly code: string;
  readonly colour: string;
  readonly music: boolean;
}

/** Colours for category bands, told apart by colour-blind eyes (after Okabe and Ito 2008, toned to the palette). */
export const BAND_COLOURS = [
  '#1F6FA8',
  '#D1862B',
  '#2E8B6F',
  '#B5476B',
  '#6C5AA7',
  '#7FA7C9',
  '#9A7B1C',
  '#4D4D4D',
  '#C96F4A',
  '#5C8A3A',
] as const;

/** The colour of the nth of many; they come round again. */
export function bandColour(n: number): string {
  return BAND_COLOURS[n % BAND_COLOURS.length] ?? BAND_COLOURS[0];
}

/**
 * Hours until a whole category has been heard once: items divided by slots an hour.
 * Null when the week asks nothing of the category.
 */
export function turnoverHours(items: number, slotsPerWeek: number): number | null {
  return slotsPerWeek > 0 ? (items * 168) / slotsPerWeek : null;
}

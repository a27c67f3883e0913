import { foldText, type ItemKind } from '@fuller/core';
import { newId } from '../ids.js';
import type { Row } from '../store/change-set.js';

/** Folded copies of the texts that are among the fields. */
export function folds(fields: Record<string, unknown>): Record<string, string> {
  const folded: Record<string, string> = {};
  for (const field of ['title', 'artist', 'album', 'notes', 'label']) {
    const value = fields[field];
    if (value !== undefined) folded[`${field}Fold`] = foldText(typeof value === 'string' ? value : '');
  }
  return folded;
}

/** An item as it is stored, from what is known of it. */
export function newItemRow(
  fields: {
    kind: ItemKind;
    title: string;
    artist: string;
    album: string;
    durationMs: number;
  } & Record<string, unknown>,
): Row {
  const empty = {
    year: null,
    introMs: null,
    outroMs: null,
    segueMs: null,
    cart: null,
    file: null,
    isrc: null,
    label: null,
    notes: '',
    startDate: null,
    endDate: null,
    hours: null,
    pausedUntil: null,
    weight: 1,
    approvedAtMs: null,
    approvedBy: null,
    tags: {},
    creditPins: {},
    announces: null,
  };
  const row = { ...empty, ...fields };
  return { scope: 'group', stationId: null, ...row, id: newId(), revision: 1, ...folds(row) };
}

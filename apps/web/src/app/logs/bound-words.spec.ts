import { expect, it } from '@jest/globals';
import type { LogItem } from '@fuller/contracts';
import type { BoundEntry, EntryTheme, LogEntry } from '@fuller/core';
import { boundWords } from './bound-words';
import { placeWords } from './place-words';

const target = { title: 'Low Tide', introMs: 9000 } as LogItem;
const base = { id: 'e', note: '', itemId: null, boundTo: 'p' };
const tease = (more: object): BoundEntry =>
  ({ ...base, kind: 'tease', target: { to: 'pick', categoryId: 'g' }, ...more }) as BoundEntry;
const sweeper = (more: object): BoundEntry => ({ ...base, kind: 'sweeper', categoryId: 's', ...more }) as BoundEntry;

it('says what a tease or a sweeper plays by, and why one plays nothing', () => {
  expect(boundWords(tease({ itemId: 't' }), target)).toBe('Announces “Low Tide”, which plays at');
  expect(boundWords(tease({ itemId: 't', target: { to: 'show' } }), null)).toBe('Announces the show that follows.');
  expect(boundWords(sweeper({ itemId: 's' }), target)).toBe(
    'Plays over the first 0:09 of “Low Tide”, and takes no time.',
  );
  const missing = [
    ...(['no audio', 'no target'] as const).map((why) => boundWords(tease({ missing: why }), target)),
    ...(['no song', 'no intro', 'intro too short'] as const).map((why) =>
      boundWords(sweeper({ missing: why }), target),
    ),
  ];
  expect(missing).toEqual([
    'Left out: there is no tease for “Low Tide” that may air now.',
    'Left out: nothing it could announce comes later in the hour.',
    'Left out: what follows is no song, or starts hard.',
    'Left out: “Low Tide” has no intro.',
    'Left out: no sweeper is as short as the intro of “Low Tide”, 0:09.',
  ]);
});

it('says what lines of a theme share, or that they share nothing, and where a row of a list comes from', () => {
  const pick = (theme: EntryTheme | undefined, more: object = {}): LogEntry =>
    ({ ...base, kind: 'pick', categoryId: 'g', theme, ...more }) as unknown as LogEntry;
  const theme = { by: 'artist', group: 'A', run: 'r', value: 'a1', words: 'Ada Stern' };
  expect(placeWords(pick(theme), 'UTC')).toBe('One artist for these lines: Ada Stern.');
  expect(placeWords(pick({ ...theme, value: null, words: '' }), 'UTC')).toContain('they share none');
  expect(placeWords(pick(undefined, { listPlace: { listId: 'l', rowId: 'r' } }), 'UTC')).toBe('From a set list.');
});

import { expect, it } from '@jest/globals';
import { songs } from '../testing/small-station.js';
import type { ScheduledItem } from '../station/station-data.js';
import { teaseBook } from './tease-book.js';

const [one, other] = songs(2, 2) as [ScheduledItem, ScheduledItem];
const tease = (id: string, more: Partial<ScheduledItem>): ScheduledItem => ({
  ...one,
  id,
  kind: 'tease',
  artistIds: [],
  durationMs: 8000,
  ...more,
});
const plan = { shows: [{ id: 'show', name: 'The Long Lock' }] };
const book = (...teases: ScheduledItem[]) => teaseBook({ items: [one, other, ...teases], plan });

it('matches by title and artist, whatever the case', () => {
  const found = book(tease('t', { title: 'TITLE 0', artist: 'artist 0' }));
  expect(found.ofItem(one)).toEqual(['t']);
  expect(found.ofItem(other)).toEqual([]);
});

it('follows the tie before the names', () => {
  const tied = tease('t', { title: one.title, artist: one.artist, announces: { what: 'song', id: other.id } });
  expect(book(tied).ofItem(one)).toEqual([]);
  expect(book(tied).ofItem(other)).toEqual(['t']);
});

it('announces the artist where a song has none of its own', () => {
  const ofArtist = tease('a', { title: 'Artist 0', artist: 'Artist 0', artistIds: ['artist0'] });
  expect(book(ofArtist).ofItem(one)).toEqual(['a']);
  const ofSong = tease('s', { title: one.title, artist: one.artist });
  expect(book(ofArtist, ofSong).ofItem(one)).toEqual(['s']);
});

it('announces a show by its name, and tells how long teases are', () => {
  const found = book(
    tease('t', { title: 'the long lock', artist: '' }),
    tease('u', { durationMs: 4000, segueMs: 1000 }),
  );
  expect(found.of({ what: 'show', id: 'show' })).toEqual(['t']);
  expect(found.averageMs).toBe(5500);
  expect(book().averageMs).toBe(0);
});

import { describe, expect, it } from '@jest/globals';
import type { TidyView } from '@fuller/contracts';
import { openPlace } from '../../testing/place';
import { TidyStore } from './tidy.store';

const VIEW: TidyView = {
  artists: [
    {
      key: 'artists-1',
      evidence: 'same',
      members: [
        { id: 'a1', name: 'Salt & Iron', songs: 9 },
        { id: 'a2', name: 'Salt and Iron', songs: 2 },
      ],
    },
  ] as unknown as TidyView['artists'],
  songs: [
    {
      key: 'songs-1',
      title: 'same',
      artist: 'same',
      members: [
        { id: 's1', title: 'Ember', artist: 'Ada', durationMs: 1, year: 1999, categoryId: 'gold', plays: 9 },
        { id: 's2', title: 'Ember', artist: 'Ada', durationMs: 1, year: 1999, categoryId: 'gold', plays: 2 },
        { id: 's3', title: 'Ember', artist: 'Ada', durationMs: 1, year: 1999, categoryId: 'gold', plays: 0 },
      ],
    },
  ],
  albums: [
    {
      key: 'albums-1',
      artistId: 'a1',
      artist: 'Salt & Iron',
      title: 'same',
      members: [
        { album: 'Coals', songs: 5 },
        { album: 'coals', songs: 1 },
      ],
    },
  ],
  gaps: [],
  refused: 0,
};

async function tidy(view = VIEW) {
  const place = openPlace(TidyStore, { answers: { tidy: () => view } });
  await place.store.load('vale');
  const row = (kind: string) => place.store.rows().find((one) => one.kind === kind)!;
  return { ...place, row };
}

describe('tidying', () => {
  it('lists findings by what they are, in one order for the keys', async () => {
    const { store } = await tidy();
    expect(store.sections().map(({ kind, rows }) => [kind, rows.length])).toEqual([
      ['artists', 1],
      ['songs', 1],
      ['albums', 1],
    ]);
    expect(store.active()?.kind).toBe('artists');
    store.move(1);
    expect(store.active()?.kind).toBe('songs');
    store.move(9);
    expect(store.active()?.kind).toBe('albums');
    store.move(-9);
    expect(store.active()?.kind).toBe('artists');
  });

  it('merges artists and albums into the one that is kept', async () => {
    const { store, server, row } = await tidy();
    await store.accept(row('artists'), 1);
    expect(server.asked('mergeArtists')[0]!.body).toEqual({ merges: [{ keep: 'a2', others: ['a1'] }] });
    await store.accept(row('albums'), 0);
    expect(server.asked('mergeAlbums')[0]!.body).toEqual({
      merges: [{ artistId: 'a1', keep: 'Coals', others: ['coals'] }],
    });
  });

  it('takes songs that are not kept out of their categories', async () => {
    const { store, server, row } = await tidy();
    await store.accept(row('songs'), 1);
    expect(server.asked('place')[0]!.body).toEqual({ itemIds: ['s1', 's3'], categoryId: null });
  });

  it('does nothing for a member that is not there, and for no rows', async () => {
    const { store, server, row } = await tidy();
    await store.accept(row('songs'), 7);
    await store.acceptAll([]);
    expect(server.calls.map(({ name }) => name)).toEqual(['tidy']);
  });

  it('keeps the first of each of many', async () => {
    const { store, server, row } = await tidy();
    await store.acceptAll([row('artists')]);
    expect(server.asked('mergeArtists')[0]!.body).toEqual({ merges: [{ keep: 'a1', others: ['a2'] }] });
  });

  it('has the next finding in hand when one is settled', async () => {
    const { store, server, row, settle, events } = await tidy();
    store.goTo(row('albums'));
    server.answers['tidy'] = () => ({ ...VIEW, albums: [] });
    events.next({ type: 'changed', stationId: null, clientId: 'x', what: ['library'], dataRevision: 2 });
    await settle(90);
    expect(store.active()?.kind).toBe('songs');
    await store.refuse([row('songs')]);
    expect(server.asked('refuseDoubles')[0]!.body).toEqual({ keys: ['songs-1'] });
  });
});

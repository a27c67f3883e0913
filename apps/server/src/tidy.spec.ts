import type { TidyView } from '@fuller/contracts';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { addCredits } from './library/credits.js';
import { newItemRow } from './library/item-row.js';
import { testServer, type TestServer } from './testing/test-server.js';

let server: TestServer;
const SONGS = [
  { id: 'a1', title: 'Wide Water', artist: 'Nuala Thorne', year: 2027 },
  { id: 'a2', title: 'Lock Gate', artist: 'Nuala Thorne', year: 2028 },
  { id: 'a3', title: 'Towpath', artist: 'Nuala Thrne feat. Piers Oakum' },
  { id: 'b1', title: 'Ferry Lights', artist: 'The Weir' },
  { id: 'b2', title: 'FERRY LIGHTS (live)', artist: 'Weir' },
];
beforeAll(async () => {
  server = await testServer();
  await server.services.store.write({ clientId: 'test', stationId: null, label: 'Songs' }, async (changes) => {
    const rows = SONGS.map((song) => ({
      ...newItemRow({ ...song, kind: 'song', album: '', durationMs: 200_000 }),
      id: song.id,
    }));
    await changes.insert('item', rows);
    await addCredits(
      changes,
      SONGS.map(({ id, artist }) => ({ itemId: id, artist })),
    );
    await changes.insert(
      'placement',
      SONGS.map(({ id }) => ({ id: `p-${id}`, itemId: id, categoryId: 'gold' })),
    );
  });
});
afterAll(() => server.close());

const tidy = async (): Promise<TidyView> => (await server.api.get('/api/stations/vale/tidy').expect(200)).body;
const post = (what: string, body: object) => server.api.post(`/api/stations/vale/tidy/${what}`).send(body);
const undo = (activityId: string) => server.api.post(`/api/activity/${activityId}/undo`).expect(200);
const card = async (id: string) => (await server.api.get(`/api/stations/vale/items/${id}`).expect(200)).body;

describe('tidying', () => {
  it('finds artists and songs that may be one, with what for, and what lacks something', async () => {
    const { artists, songs, gaps } = await tidy();
    expect(artists.map(({ members }) => members.map(({ name, songs: count }) => [name, count]))).toEqual([
      [
        ['Nuala Thorne', 2],
        ['Nuala Thrne', 1],
      ],
    ]);
    expect(songs).toMatchObject([{ title: 'version', artist: 'same', members: [{ id: 'b1' }, { id: 'b2' }] }]);
    // Next year's record is possible, the one of the year after is not.
    expect(gaps).toContainEqual({ name: 'Years that cannot be', filter: 'year:..1899,2028..', items: 1 });
    expect(gaps).toContainEqual({
      name: 'Songs without a file',
      filter: 'kind:song file:none',
      items: expect.any(Number),
    });
  });

  it('makes two artists one, in credits and in print, and undo makes them two again', async () => {
    const [cluster] = (await tidy()).artists;
    const [keep, other] = cluster!.members;
    const merged = await post('merges', { merges: [{ keep: keep!.id, others: [other!.id] }] }).expect(200);
    expect(await card('a3')).toMatchObject({
      artist: 'Nuala Thorne feat. Piers Oakum',
      credits: [{ name: 'Nuala Thorne', songs: 3 }, { name: 'Piers Oakum' }],
    });
    expect((await tidy()).artists).toEqual([]);
    await undo(merged.body.activityId);
    expect((await card('a3')).artist).toBe('Nuala Thrne feat. Piers Oakum');
    expect((await tidy()).artists).toHaveLength(1);
  });

  it('does not ask again about what was told apart, until that is undone', async () => {
    const [cluster] = (await tidy()).songs;
    const refused = await post('refusals', { keys: [cluster!.key] }).expect(200);
    expect(await tidy()).toMatchObject({ songs: [], refused: 1 });
    await undo(refused.body.activityId);
    expect((await tidy()).songs).toHaveLength(1);
  });

  it('lets a double go that is scheduled no more', async () => {
    await server.api
      .post('/api/stations/vale/placements')
      .send({ itemIds: ['b2'], categoryId: null })
      .expect(200);
    expect((await tidy()).songs).toEqual([]);
  });

  it('refuses to merge an artist into itself or into nobody', async () => {
    const [cluster] = (await tidy()).artists;
    const { id } = cluster!.members[0]!;
    await post('merges', { merges: [{ keep: id, others: [id] }] }).expect(404);
    await post('merges', { merges: [{ keep: 'ghost', others: [id] }] }).expect(404);
    expect((await tidy()).artists).toHaveLength(1);
  });
});

describe('artists', () => {
  const artistOf = async (song: string) => (await card(song)).credits[0] as { artistId: string; name: string };
  const send = (id: string, what: string, body: object) =>
    server.api.post(`/api/stations/vale/artists/${id}/${what}`).send(body);
  const view = async (id: string) => (await server.api.get(`/api/artists/${id}`).expect(200)).body;

  it('who are merged leave their names behind, so that imports meet them; undo makes them two again', async () => {
    const { artistId } = await artistOf('song1');
    const preview = (await send(artistId, 'aliases/preview', { name: 'ARTIST 2' }).expect(200)).body;
    expect(preview).toMatchObject({ artist: { name: 'Artist 2', songs: 3 } });
    expect(preview.rows[0]).toMatchObject({ before: 'Artist 2', after: 'Artist 1' });
    expect((await send(artistId, 'aliases', { name: 'Artist 2' }).expect(409)).body.message).toContain(
      'songs of its own',
    );
    const { body } = await send(artistId, 'aliases', { name: 'Artist 2', merge: true }).expect(200);
    expect(await view(artistId)).toMatchObject({ songs: 6, aliases: [{ name: 'Artist 2' }] });
    const { revision } = await card('song9');
    await server.api.patch('/api/stations/vale/items/song9').send({ revision, artist: 'artist 2 feat. X' }).expect(200);
    expect((await artistOf('song9')).artistId).toBe(artistId);
    await undo(body.activityId);
    expect((await card('song2')).artist).toBe('Artist 2');
    expect((await artistOf('song2')).name).toBe('Artist 2');
  });

  it('have other names that can be taken away', async () => {
    const { artistId } = await artistOf('song4');
    await send(artistId, 'aliases', { name: 'The Otter' }).expect(200);
    await send(artistId, 'aliases', { name: 'otter' }).expect(409);
    const { revision } = await card('song30');
    await server.api.patch('/api/stations/vale/items/song30').send({ revision, artist: 'Otter' }).expect(200);
    expect((await artistOf('song30')).artistId).toBe(artistId);
    const [alias] = (await view(artistId)).aliases;
    await server.api.delete(`/api/stations/vale/artists/${artistId}/aliases/${alias.id}`).expect(200);
    expect((await artistOf('song30')).name).toBe('Otter');
  });

  it('of one name are told apart for good, printed alike', async () => {
    const { artistId } = await artistOf('song5');
    await send(artistId, 'split', { itemIds: ['song5', 'song6'], name: 'Artist 5 (Cork)' }).expect(400);
    await send(artistId, 'split', { itemIds: ['song5'], name: 'artist 5' }).expect(409);
    const { body } = await send(artistId, 'split', { itemIds: ['song5', 'song25'], name: 'Artist 5 (Cork)' }).expect(
      200,
    );
    expect(await artistOf('song5')).toMatchObject({ artistId: body.id, name: 'Artist 5 (Cork)' });
    const { revision, artist } = await card('song5');
    expect(artist).toBe('Artist 5');
    await server.api.patch('/api/stations/vale/items/song5').send({ revision, artist: 'Artist 5 & Nell' }).expect(200);
    expect((await artistOf('song5')).artistId).toBe(body.id);
    expect((await artistOf('song45')).artistId).toBe(artistId);
  });

  it('are renamed in print too', async () => {
    const { artistId } = await artistOf('song7');
    const rename = (name: string) => server.api.patch(`/api/stations/vale/artists/${artistId}`).send({ name });
    await rename('Artist 8').expect(409);
    await rename('Heron').expect(200);
    expect((await card('song27')).artist).toBe('Heron');
  });
});

describe('albums', () => {
  it('of one artist that may be one are found and made one', async () => {
    for (const [id, album] of [
      ['song10', 'Low Tide'],
      ['song30', 'low tide'],
      ['song50', 'Low Tde'],
      ['song11', 'Low Tide'],
    ] as const) {
      const { revision } = await card(id);
      await server.api
        .patch(`/api/stations/vale/items/${id}`)
        .send({ revision, album, artist: id === 'song11' ? 'Artist 11' : 'Artist 10' })
        .expect(200);
    }
    const cluster = (await tidy()).albums.find(({ artist }) => artist === 'Artist 10')!;
    expect(cluster.members.map(({ album }) => album).sort()).toEqual(['Low Tde', 'Low Tide', 'low tide']);
    const merges = [{ artistId: cluster.artistId, keep: 'Low Tide', others: ['low tide', 'Low Tde'] }];
    await post('album-merges', { merges }).expect(200);
    expect([(await card('song50')).album, (await card('song11')).album]).toEqual(['Low Tide', 'Low Tide']);
    expect((await tidy()).albums.some(({ artist }) => artist === 'Artist 10')).toBe(false);
  });
});

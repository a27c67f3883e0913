import type { TidyView } from '@fuller/contracts';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { addCredits } from './services/credits.js';
import { newItemRow } from './services/library-service.js';
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

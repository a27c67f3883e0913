import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { checkLimits, STANDARD_LIMITS } from '@fuller/core';
import { endOfJob, testServer, TOMORROW, type TestServer } from './testing/test-server.js';

let server: TestServer;
const base = '/api/stations/vale';
const check = (text: string | Uint8Array, strict = false) =>
  server.api.post(`${base}/limits/check`).send({ name: 'list', content: Buffer.from(text).toString('base64'), strict });
const days = (query = '') => server.api.get(`${base}/limits/check?from=${TOMORROW}${query}`);
const generate = async (more: object = {}): Promise<void> => {
  const { body: job } = await server.api
    .post(`${base}/generate`)
    .send({ from: TOMORROW, days: 1, ...more })
    .expect(200);
  await endOfJob(server, job.id);
};
const settings = async () => (await server.api.get(`${base}/catalogue`)).body.limits;
const apply = async (more: object) =>
  server.api.put(`${base}/limits`).send({ ...(await settings()), applies: true, ...more });

beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

describe('a playlist', () => {
  it('takes from the library what it does not tell itself, by file or by title and artist', async () => {
    // Songs 0 to 9 have files; 0 and 25 to 50 share Album 0, and each artist has one song in twenty.
    await server.api
      .patch(`${base}/items/song1`)
      .send({ revision: 1, album: 'Album 0', artist: 'Artist 0' })
      .expect(200);
    const m3u = [
      '#EXTM3U',
      'C:\\Audio\\SONG0.wav',
      '/other/song1.wav',
      '#EXTINF:200,artist 5 - REALTA 25',
      'gone.wav',
      '',
    ];
    const { body } = await check(m3u.join('\n')).expect(200);
    expect(body).toMatchObject({ pass: true, entries: 3, withoutAlbum: 0 });
    const table = 'artist,title,album\nA,One,X\nA,Two,X\nA,Three,X\nB,Four,\n';
    expect((await check(table).expect(200)).body).toMatchObject({
      pass: false,
      violations: [{ limit: 'album-2-in-a-row', value: 'X', positions: [1, 2, 3] }],
      mend: { remove: [3] },
      songs: [{ position: 1, start: '00:00:00' }, {}, { position: 3, title: 'Three' }],
      smallest: true,
      withoutLength: 4,
      withoutAlbum: 1,
    });
  });

  it('is refused where it cannot be read', async () => {
    expect((await check('title,start\nOne,soon\n')).body.message).toBe('Line 2, start: “soon” is not a time of day.');
    expect((await check(Uint8Array.of(0x89, 0x50, 0, 0, 1, 2, 3))).body.code).toBe('NOT_A_TEXT');
    expect((await check('')).status).toBe(422);
    const odd = await server.api.post(`${base}/limits/check`).send({ name: 'x', content: '***', strict: false });
    expect(odd.body.field).toBe('content');
  });
});

describe('a log', () => {
  it('that exceeds the limits is mended by the fewest songs, which is undone at once', async () => {
    expect((await days()).body.code).toBe('NO_LOG');
    await generate();
    const before = (await days().expect(200)).body;
    // Twenty artists in fifteen songs an hour.
    expect(before).toMatchObject({ pass: true, entries: expect.any(Number) });
    const { body: view } = await server.api.get(`${base}/logs/${TOMORROW}`).expect(200);
    const picks = view.log.hours[9].entries.slice(0, 4);
    let { revision } = view;
    for (const [n, entry] of picks.entries())
      ({ revision } = (
        await server.api
          .post(`${base}/logs/${TOMORROW}/edits`)
          .send({
            revision,
            edit: { type: 'replace', entryId: entry.id, itemId: ['song0', 'song20', 'song40', 'song1'][n] },
          })
          .expect(200)
      ).body);
    const broken = (await days().expect(200)).body;
    expect(broken.violations.map(({ limit }: { limit: string }) => limit)).toContain('artist-3-in-a-row');
    expect(broken.songs[0]).toMatchObject({ date: TOMORROW, entryId: expect.any(String) });
    const { body: mended } = await server.api
      .post(`${base}/logs/${TOMORROW}/limits`)
      .send({ strict: false })
      .expect(200);
    expect(mended.replaced.length).toBe(broken.mend.remove.length);
    expect((await days().expect(200)).body.pass).toBe(true);
    expect((await server.api.post(`${base}/logs/${TOMORROW}/limits`).send({ strict: false })).body.message).toContain(
      'keeps the limits already',
    );
    await server.api.post(`/api/activity/${mended.activityId}/undo`).expect(200);
    expect((await days().expect(200)).body.pass).toBe(false);
  });

  it('is generated within the limits once they apply, the stricter ones too', async () => {
    expect((await apply({ revision: 9 })).status).toBe(409);
    await apply({ strict: true }).then(({ status }) => expect(status).toBe(200));
    expect((await apply({ strict: true, exemptAlbums: ['Album 0'] })).status).toBe(200);
    await generate({ replaceByHand: true });
    const { body: view } = await server.api.get(`${base}/logs/${TOMORROW}`).expect(200);
    const songs = view.log.hours.flatMap(({ entries }: { entries: { itemId: string; id: string }[] }) => entries);
    expect((await days('&strict=true').expect(200)).body).toMatchObject({ pass: true, strict: true });
    // Counted by itself: three minutes and more a song, in their order.
    const played = songs
      .filter(({ itemId }: { itemId: string | null }) => itemId !== null)
      .map(({ itemId }: { itemId: string }, at: number) => {
        const number = Number(itemId.slice(4));
        return {
          position: at + 1,
          start: at * 240,
          title: itemId,
          artist: number === 1 ? 'Artist 0' : `Artist ${number % 20}`,
          album: '',
        };
      });
    expect(played.length).toBeGreaterThan(100);
    expect(checkLimits(played, { ...STANDARD_LIMITS, strict: true })).toEqual([]);
  });
});

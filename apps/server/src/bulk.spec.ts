import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { testServer, type TestServer } from './testing/test-server.js';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

const post = (what: string, body: object) => server.api.post(`/api/stations/vale/${what}`).send(body);
const items = async (query = '') => (await server.api.get(`/api/stations/vale/items${query}`).expect(200)).body;
const card = async (id: string) => (await server.api.get(`/api/stations/vale/items/${id}`).expect(200)).body;
const undo = (activityId: string) => server.api.post(`/api/activity/${activityId}/undo`).expect(200);
const SOME = ['song1', 'song2', 'song3'];

describe('one change to many items', () => {
  it('is shown before it is made, made in one go, and undone in one', async () => {
    const request = { itemIds: SOME, edit: { do: 'replace', field: 'artist', find: 'ARTIST', by: 'Weir' } };
    const preview = (await post('bulk/preview', request).expect(200)).body;
    expect(preview).toMatchObject({ changed: 3, same: 0, refused: [] });
    expect(preview.rows[0]).toEqual({
      id: 'song1',
      title: 'Réalta 1',
      artist: 'Artist 1',
      before: 'Artist 1',
      after: 'Weir 1',
    });
    expect((await card('song1')).artist).toBe('Artist 1');
    const { body } = await post('bulk', request).expect(200);
    expect(body.changed).toBe(3);
    expect((await card('song2')).credits).toMatchObject([{ name: 'Weir 2' }]);
    expect((await items('?q=weir')).total).toBe(3);
    expect((await post('bulk/preview', request).expect(200)).body).toMatchObject({ changed: 0, same: 3 });
    await undo(body.activityId);
    expect((await card('song2')).credits).toMatchObject([{ name: 'Artist 2' }]);
  });

  it('is refused whole where one item cannot take it', async () => {
    const request = { itemIds: SOME, edit: { do: 'set', field: 'introMs', value: 201_500 } };
    const { changed, refused } = (await post('bulk/preview', request).expect(200)).body;
    expect([changed, refused]).toEqual([2, [{ id: 'song1', title: 'Réalta 1', why: 'it is longer than the item.' }]]);
    expect((await post('bulk', request).expect(400)).body.message).toContain('“Réalta 1”');
    expect((await card('song3')).introMs).toBeNull();
    const emptied = { itemIds: SOME, edit: { do: 'replace', field: 'title', find: 'réalta 2', by: '' } };
    expect((await post('bulk', emptied).expect(400)).body.message).toContain('is empty');
  });

  it.each([
    { do: 'set', field: 'cart', value: 'X' },
    { do: 'set', field: 'year', value: 'soon' },
    { do: 'set', field: 'hours', value: '01' },
    { do: 'replace', field: 'title', find: '', by: 'x' },
    { do: 'tag', family: '', how: 'add', values: ['x'] },
  ])('refuses %j', async (edit) => {
    await post('bulk', { itemIds: SOME, edit }).expect(400);
  });
});

describe('the worklist', () => {
  it('collects items, lists them like a category, and is undone', async () => {
    const { body } = await post('worklist', { add: ['song5', 'song4', 'song5'] }).expect(200);
    await post('worklist', { add: ['song6'], remove: ['song4'] }).expect(200);
    const { itemIds } = (await server.api.get('/api/stations/vale/worklist').expect(200)).body;
    expect(itemIds).toEqual(['song5', 'song6']);
    expect((await items('?category=worklist&sort=title')).rows.map((row: { id: string }) => row.id)).toEqual(itemIds);
    expect((await items('?category=worklist&q=6')).total).toBe(1);
    expect((await server.api.get('/api/stations/night/items?category=worklist').expect(200)).body.total).toBe(0);
    await server.api.post(`/api/activity/${body.activityId}/undo`).expect(409);
  });
});

describe('approval', () => {
  it('is given in a name, kept from being given twice, and taken back', async () => {
    await post('approvals', { itemIds: SOME, by: 'Maeve' }).expect(200);
    await post('approvals', { itemIds: ['song1'], by: 'Piers' }).expect(200);
    expect((await card('song1')).approved).toMatchObject({ by: 'Maeve' });
    expect((await items('?q=approved:any')).total).toBe(3);
    await post('approvals', { itemIds: ['song1'], by: null }).expect(200);
    expect((await card('song1')).approved).toBeNull();
    await post('approvals', { itemIds: ['song1'], by: ' ' }).expect(400);
  });
});

describe('tag families', () => {
  const families = async () => (await server.api.get('/api/stations/vale/tag-families').expect(200)).body;
  const patch = (id: string, body: object) => server.api.patch(`/api/stations/vale/tag-families/${id}`).send(body);

  it('are made with what is said of items, renamed and joined without losing anything, and undone', async () => {
    await post('bulk', {
      itemIds: SOME,
      edit: { do: 'tag', family: 'mood', how: 'add', values: ['calm', 'wild'] },
    }).expect(200);
    await post('bulk', {
      itemIds: ['song1'],
      edit: { do: 'tag', family: 'mood', how: 'remove', values: ['calm'] },
    }).expect(200);
    const [family] = await families();
    expect(family).toMatchObject({ name: 'mood', single: false });
    expect(family.values.map(({ value, items: count }: { value: string; items: number }) => [value, count])).toEqual([
      ['calm', 2],
      ['wild', 3],
    ]);
    const next = { revision: family.revision, values: [{ value: 'quiet', was: 'calm', code: 'Q', colour: '#24527A' }] };
    expect((await patch(family.id, next).expect(409)).body.message).toContain('“wild” is on 3 items');
    expect((await patch(family.id, { revision: family.revision, single: true }).expect(409)).body.message).toContain(
      'several',
    );
    const { body } = await patch(family.id, { ...next, name: 'Feel', gone: { wild: 'quiet' } }).expect(200);
    expect((await card('song1')).tags).toEqual({ Feel: ['quiet'] });
    expect((await items('?q=feel:quiet')).total).toBe(3);
    await undo(body.activityId);
    expect((await card('song2')).tags).toEqual({ mood: ['calm', 'wild'] });
  });

  it('of one value take no second, and go only when told what becomes of their values', async () => {
    const { body } = await post('tag-families', { name: 'Era', single: true }).expect(200);
    expect((await post('tag-families', { name: 'ERA' }).expect(409)).body.field).toBe('name');
    const { revision, tags } = await card('song9');
    const write = (era: string[]) =>
      server.api.patch('/api/stations/vale/items/song9').send({ revision, tags: { ...tags, Era: era } });
    expect((await write(['80s', '90s']).expect(400)).body.message).toContain('one value of Era');
    await write(['90s']).expect(200);
    const gone = (how: string) => server.api.delete(`/api/stations/vale/tag-families/${body.id}${how}`);
    expect((await gone('').expect(409)).body.message).toContain('1 items');
    await gone('?offItems=yes').expect(200);
    expect((await card('song9')).tags).toEqual(tags);
  });
});

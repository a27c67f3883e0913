import { mkdir, readdir, readFile, symlink, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import {
  handOverSettings,
  type HandOverChanges,
  type HandOverState,
  type JobView,
  type LogView,
} from '@fuller/contracts';
import { startReceiver, type Receiver } from '@fuller/standins/receiver';
import { unzipSync } from 'fflate';
import { OutputNightEntity } from './db/entities/index.js';
import { endOfJob, testServer, TOMORROW, type TestServer } from './testing/test-server.js';

let server: TestServer;
let receiver: Receiver;
const HERE = '/api/stations/vale';
const state = async (): Promise<HandOverState> =>
  (await server.api.get(`${HERE}/hand-over/${TOMORROW}`).expect(200)).body;
const form = (more: object = {}) => ({
  name: 'Playout',
  files: handOverSettings({ pattern: '{date}.m3u8', hourly: false }),
  target: { kind: 'folder', folder: null },
  nightly: null,
  revision: 0,
  ...more,
});
const save = (id: string, more: object = {}) => server.api.put(`${HERE}/outputs/${id}`).send(form(more));
const write = async (id: string): Promise<JobView> => {
  const { body } = await server.api.post(`${HERE}/hand-over/${TOMORROW}/outputs/${id}`).expect(200);
  return (await endOfJob(server, body.id)) as JobView;
};
const takenFolder = (): string => path.join(server.services.folders.handOver, 'taken');

beforeAll(async () => {
  server = await testServer();
  const { body: job } = await server.api.post(`${HERE}/generate`).send({ from: TOMORROW, days: 1 });
  await endOfJob(server, job.id);
  for (let n = 0; n < 60; n++) await writeFile(path.join(server.services.folders.audio, `song${n}.wav`), 'RIFF');
  receiver = await startReceiver({ folder: takenFolder(), port: 0, user: 'fuller', password: 'weir' });
});
afterAll(async () => {
  await receiver.stop();
  await server.close();
});

describe('an output', () => {
  it('is there before any is set up; others are added, changed and removed, and each can be undone', async () => {
    expect((await state()).outputs).toMatchObject([{ name: 'Playlist', revision: 0, hasPassword: false }]);
    await save('one').expect(200);
    expect((await save('two')).body.code).toBe('NAME_TAKEN');
    expect((await save('two', { name: 'Twin' })).body).toMatchObject({ code: 'INVALID', field: 'pattern' });
    expect((await save('one', { name: 'Player', revision: 7 })).body.code).toBe('CONFLICT');
    const zipped = { ...form().files, zip: true };
    const { body } = await save('two', { name: 'Zip', files: zipped, password: 'secret' }).expect(200);
    const { outputs } = await state();
    expect(outputs.map(({ name, hasPassword }) => [name, hasPassword])).toEqual([
      ['Playout', false],
      ['Zip', true],
    ]);
    expect(JSON.stringify((await server.api.get('/api/activity?stationId=vale')).body)).not.toContain('secret');
    await server.api.delete(`${HERE}/outputs/one`).expect(200);
    await server.api.post(`/api/activity/${body.activityId}/undo`).expect(200);
    expect((await state()).outputs).toMatchObject([{ name: 'Playlist' }]);
  });

  it.each([
    ['target', { target: { kind: 'folder', folder: '../../etc' } }],
    ['target', { target: { kind: 'http', url: 'ftp://x/', user: '' } }],
    ['target', { target: { kind: 'http', url: 'http://name:word@x/', user: '' } }],
    ['nightly', { nightly: { at: '24:00', daysAhead: 1 } }],
    ['pattern', { files: handOverSettings({ pattern: '{moon}', hourly: false }) }],
    ['pattern', { files: handOverSettings({ pattern: '{date}', hourly: true }) }],
    ['encoding', { files: handOverSettings({ pattern: 'a', hourly: false, format: 'json', encoding: 'ascii' }) }],
  ])('is refused where its %s cannot be: %j', async (field, more) => {
    const { body } = await save('bad', more).expect(400);
    const words = { target: /outside the folders|address/, nightly: /23:30/, encoding: /always written in UTF-8/ };
    expect(body.message).toMatch(words[field as keyof typeof words] ?? /is not known|need an hour/);
  });

  it('never writes through a link that leads out of its folder', async () => {
    await mkdir(path.join(server.dataDir, 'elsewhere'), { recursive: true });
    await symlink(path.join(server.dataDir, 'elsewhere'), path.join(server.services.folders.handOver, 'link'));
    expect((await save('bad', { target: { kind: 'folder', folder: 'link/deep' } })).body.field).toBe('folder');
  });

  it('writes its format to its folder with a manifest, or everything in one zip', async () => {
    const files = handOverSettings({
      pattern: '{yyyy}{MM}{dd}-{HH}.pls',
      hourly: true,
      format: 'pls',
      lineEnds: 'CRLF',
      prefixes: [{ from: server.services.folders.audio, to: 'M:' }],
      slashes: 'backward',
    });
    await save('pls', { name: 'PLS', files, target: { kind: 'folder', folder: 'pls' } }).expect(200);
    const job = await write('pls');
    expect(job).toMatchObject({
      state: 'done',
      message: expect.stringMatching(/entries in 24 files to .*pls, \d+ left out/),
    });
    const folder = path.join(server.services.folders.handOver, 'pls');
    const name = `${TOMORROW.replaceAll('-', '')}-06.pls`;
    expect(await readdir(folder)).toContain(name);
    const texts = await Promise.all((await readdir(folder)).map((file) => readFile(path.join(folder, file), 'utf8')));
    expect(texts.join('')).toMatch(/\[playlist\]\r\nFile1=M:\\song\d\.wav\r\n/);
    const manifests = (await readdir(folder)).filter((file) => file.endsWith('.manifest.json'));
    expect(manifests).toHaveLength(1);
    const { files: listed } = JSON.parse(await readFile(path.join(folder, manifests[0]!), 'utf8'));
    expect(listed).toHaveLength(24);
    const { body } = await server.api
      .get(`${HERE}/hand-over/${TOMORROW}/outputs/pls/download`)
      .buffer(true)
      .parse((answer, done) => {
        const parts: Buffer[] = [];
        answer.on('data', (part: Buffer) => parts.push(part)).on('end', () => done(null, Buffer.concat(parts)));
      })
      .expect(200);
    expect(Object.keys(unzipSync(body as Buffer))).toHaveLength(24);
    expect((await state()).records[0]).toMatchObject({ outputId: 'pls', outputName: 'PLS', stale: false });
  });

  it('shows the file as it will be read, and what its encoding lacks', async () => {
    const ask = { date: TOMORROW, pattern: 'a.m3u', hourly: false, format: 'm3u', encoding: 'ascii' };
    const { body } = await server.api.post(`${HERE}/hand-over/preview`).send(ask).expect(200);
    expect(body).toMatchObject({ missingLetters: ['é'], changedPaths: 0, cut: 0 });
    expect(body.files[0].head).toMatch(/^#EXTM3U\n/);
    const wrong = { ...ask, format: 'xspf' };
    expect((await server.api.post(`${HERE}/hand-over/preview`).send(wrong).expect(400)).body.field).toBe('encoding');
  });
});

describe('another machine', () => {
  const http = (more: object = {}) => ({
    name: 'Machine',
    target: { kind: 'http', url: receiver.url, user: 'fuller' },
    password: 'weir',
    ...more,
  });

  it('is sent the files, the manifest last, each moved to its place; what fails is tried again', async () => {
    await save('http', http()).expect(200);
    receiver.failNext(2);
    expect(await write('http')).toMatchObject({ state: 'done' });
    const name = `${TOMORROW}.m3u8`;
    expect(receiver.asked).toEqual([
      `PUT ${name}.fuller-part 503`,
      `PUT ${name}.fuller-part 503`,
      `PUT ${name}.fuller-part 201`,
      `MOVE ${name}.fuller-part 201`,
      `PUT ${name}.manifest.json.fuller-part 201`,
      `MOVE ${name}.manifest.json.fuller-part 201`,
    ]);
    expect(await readdir(takenFolder())).toEqual([name, `${name}.manifest.json`]);
    expect((await state()).records).toContainEqual(expect.objectContaining({ outputId: 'http', folder: receiver.url }));
  });

  it('that refuses is told at once with its answer, one that is not there after some tries; nothing is recorded', async () => {
    const { records } = await state();
    await save('wrong', http({ name: 'Wrong', files: { ...form().files, pattern: 'x.m3u8' }, password: 'no' })).expect(
      200,
    );
    expect(await write('wrong')).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('refused x.m3u8: 401'),
    });
    await save('gone', http({ name: 'Gone', target: { kind: 'http', url: 'http://127.0.0.1:9', user: '' } })).expect(
      200,
    );
    expect(await write('gone')).toMatchObject({
      state: 'failed',
      message: expect.stringMatching(/cannot be sent to 127\.0\.0\.1:9: /),
    });
    expect((await state()).records).toEqual(records);
  });

  it('that cannot move gets the file in its place', async () => {
    const plain = await startReceiver({ folder: takenFolder(), port: 0, user: '', password: '', canMove: false });
    const target = { kind: 'http', url: `${plain.url}/`, user: '' };
    await save('plain', http({ name: 'Plain', target, files: { ...form().files, pattern: 'plain.m3u8' } })).expect(200);
    // Without a name nothing is asked for one.
    expect((await write('plain')).state).toBe('failed');
    await plain.stop();
    const open = await startReceiver({ folder: takenFolder(), port: 0, user: 'a', password: 'b', canMove: false });
    await save(
      'plain',
      http({ revision: 1, name: 'Plain', target: { kind: 'http', url: open.url, user: 'a' }, password: 'b' }),
    );
    expect((await write('plain')).state).toBe('done');
    expect(open.asked.slice(0, 4).map((line) => line.split(' ')[0])).toEqual(['PUT', 'MOVE', 'PUT', 'DELETE']);
    await open.stop();
  });
});

describe('a log that was handed over', () => {
  it('says what plays differently since', async () => {
    await write('pls');
    const record = (await state()).records.find(({ outputId }) => outputId === 'pls');
    const changes = async (): Promise<HandOverChanges> =>
      (await server.api.get(`${HERE}/hand-over/${TOMORROW}/changes/${record!.id}`).expect(200)).body;
    expect(await changes()).toEqual({ known: true, total: 0, rows: [] });
    const { log, revision }: LogView = (await server.api.get(`${HERE}/logs/${TOMORROW}`)).body;
    const slot = log.hours[4]!.entries.find(({ kind }) => kind === 'pick')!;
    const edits = [
      { type: 'open', entryId: slot.id },
      { type: 'note', entryId: log.hours[5]!.entries[0]!.id, note: 'A note plays nothing' },
    ];
    await server.api
      .post(`${HERE}/logs/${TOMORROW}/edits`)
      .send({ revision, edit: { type: 'batch', edits } })
      .expect(200);
    expect(await changes()).toMatchObject({
      total: 1,
      rows: [{ hourIndex: 4, before: expect.stringContaining(' - '), after: 'Open slot' }],
    });
    expect((await state()).records[0]!.stale).toBe(true);
  });
});

describe('an output that writes by itself', () => {
  const handOverDue = () => server.services.handOverJobs.handOverDue();
  const nights = async () =>
    ((await server.api.get('/api/jobs')).body as JobView[]).filter(({ clientId }) => clientId === 'nightly');
  const night = (id: string, at: string, more: object = {}) =>
    save(id, { name: id, files: { ...form().files, pattern: `${id}.m3u8` }, nightly: { at, daysAhead: 1 }, ...more });
  /** As if the last night had been yesterday. */
  const letADayPass = () =>
    server.services.store.quietly(async (em) => {
      await em.nativeUpdate(OutputNightEntity, {}, { date: '2026-11-22' });
    });

  it('does so once a day, from its time on; a time that has passed when it is set begins tomorrow', async () => {
    await night('early', '08:00').expect(200);
    await night('late', '23:59').expect(200);
    await handOverDue();
    await handOverDue();
    expect(await nights()).toEqual([]);
    await letADayPass();
    await handOverDue();
    await handOverDue();
    const [job, ...more] = await nights();
    expect(more).toEqual([]);
    expect((await endOfJob(server, job!.id)).message).toMatch(/entries in 1 file to .*, \d+ left out/);
    // Another time counts from when it is set.
    await night('late', '09:00', { revision: 1 }).expect(200);
    await handOverDue();
    expect(await nights()).toHaveLength(1);
  });

  it('tells among the jobs where it cannot', async () => {
    await night('far', '08:00', { nightly: { at: '08:00', daysAhead: 9 } }).expect(200);
    await handOverDue();
    await letADayPass();
    await handOverDue();
    const ended = await Promise.all((await nights()).map(({ id }) => endOfJob(server, id)));
    expect(ended.find(({ state: how }) => how === 'failed')?.message).toContain('There is no log');
  });
});

import supertest from 'supertest';
import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { ERROR_CODES } from './errors.js';
import { threadCompute } from './jobs/compute.js';
import { openServices } from './services.js';
import { testServer, type TestServer } from './testing/test-server.js';
import { describeOfFile } from './testing/database.js';

let server: TestServer;
beforeAll(async () => {
  server = await testServer();
});
afterAll(() => server.close());

describe('the API', () => {
  it('describes itself, with every error code and its remedy', async () => {
    const { body } = await server.api.get('/api/openapi.json').expect(200);
    expect(body.openapi).toBe('3.1.0');
    expect(Object.keys(body.paths).length).toBeGreaterThan(25);
    for (const code of Object.keys(ERROR_CODES)) expect(body.info.description).toContain(`\`${code}\``);
    expect(
      body.paths['/api/stations/{stationId}/items'].get.parameters.map((one: { name: string }) => one.name),
    ).toContain('limit');
    // Every refusal is told with its status: one that is not listed fails wherever a test meets it.
    const { responses } = body.paths['/api/stations/{stationId}/logs/{date}/edits'].post;
    expect(
      Object.entries(responses).map(([status, answer]) => [status, (answer as { description: string }).description]),
    ).toEqual([
      ['200', 'Done'],
      ['400', 'INVALID'],
      ['404', 'NOT_FOUND, NO_LOG'],
      ['409', 'CONFLICT'],
      ['default', 'FORBIDDEN, SIGN_IN, STORAGE, TOO_LARGE, TOO_MANY, UNEXPECTED'],
    ]);
    expect((await server.api.get('/api/docs').expect(200)).text).not.toMatch(/https?:\/\//);
  });

  it('sets headers that keep a browser safe, and refuses changes from other sites', async () => {
    const { headers } = await server.api.get('/api/health').expect(200);
    expect(headers['content-security-policy']).toContain("script-src 'self'");
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['x-powered-by']).toBeUndefined();
    await server.api.post('/api/stations/vale/rules').set('sec-fetch-site', 'cross-site').send({}).expect(403);
    await server.api.post('/api/stations/vale/rules').set('origin', 'http://evil.example').send({}).expect(403);
    const plain = await supertest(server.app).post('/api/stations/vale/imports/dropped').expect(403);
    expect(plain.body.message).toContain('X-Client');
  });

  it.each([
    ['get', '/api/nowhere', 404, 'NOT_FOUND'],
    ['get', '/api/stations/ghost/catalogue', 404, 'NOT_FOUND'],
    ['get', '/api/stations/a%20b/catalogue', 400, 'INVALID'],
    ['get', '/api/stations/vale/logs/2026-13-01', 400, 'INVALID'],
    ['post', '/api/activity/ghost/undo', 404, 'NOT_FOUND'],
    ['delete', '/api/jobs/ghost', 404, 'NOT_FOUND'],
  ] as const)('answers %s %s with %d %s', async (method, url, status, code) => {
    expect((await server.api[method](url).expect(status)).body).toMatchObject({ code, status });
  });

  it.each([
    ['post', '/api/stations/vale/category-groups', { name: 'a\0b' }, '“name” holds a character that no text has.'],
    ['post', '/api/stations/vale/worklist', ['s1'], 'The request is a list, not an object.'],
    ['post', '/api/stations/vale/rules', { shape: 'apart', tag: 'artist' }, '“amount” is missing.'],
    ['post', '/api/stations/vale/rules', { shape: 'apart', tag: 'voice', amount: 60 }, 'There is no tag “voice”.'],
    ['post', '/api/stations/vale/generate', { from: '9999-12-31' }, '“from” is not between 1990-01-01 and 2199-12-31.'],
    ['post', '/api/stations/vale/generate', { from: '2026-11-24', days: 'x' }, '“days” must be a number.'],
    ['post', '/api/stations/vale/generate', { from: '2026-11-24', colour: 1 }, '“colour” is not a field here.'],
  ] as const)('says what is wrong with %s %s %j', async (method, url, body, message) => {
    expect(
      (
        await server.api[method](url)
          .send(body as object)
          .expect(400)
      ).body.message,
    ).toBe(message);
  });

  it('names what is wrong with a body that cannot be read', async () => {
    const { body } = await server.api
      .post('/api/stations/vale/rules')
      .set('content-type', 'application/json')
      .send('{broken')
      .expect(400);
    expect(body.message).toBe('The request is not valid JSON.');
    await server.api
      .post('/api/stations/vale/rules')
      .send({ tag: 'x'.repeat(5_000_000) })
      .expect(413);
  });
});

describe('the event stream', () => {
  it('tells of changes and jobs to whoever listens', async () => {
    const http = createServer(server.app);
    await new Promise<void>((resolve) => http.listen(0, '127.0.0.1', resolve));
    const { port } = http.address() as AddressInfo;
    const abort = new AbortController();
    const stream = await fetch(`http://127.0.0.1:${port}/api/events`, { signal: abort.signal });
    const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
    await server.api
      .post('/api/stations/vale/rules')
      .set('x-client', 'tab1')
      .send({ shape: 'apart', tag: 'album', amount: 60, resting: true })
      .expect(200);
    let text = '';
    while (!text.includes('"changed"')) text += (await reader.read()).value;
    expect(text).toContain('"clientId":"tab1"');
    expect(text).toContain('"what":["catalogue","logs","only rules"]');
    abort.abort();
    http.closeAllConnections();
    await new Promise((resolve) => http.close(resolve));
  });
});

describeOfFile('a data folder', () => {
  it('is opened again as it was left, without what was half-written', async () => {
    const dataDir = await mkdtemp(path.join(os.tmpdir(), 'fuller-open-'));
    const first = await openServices({ dataDir, compute: threadCompute() });
    await writeFile(path.join(first.folders.handOver, 'day.m3u8.fuller-part-x'), 'half');
    await writeFile(path.join(first.folders.handOver, 'day.m3u8'), 'whole');
    await writeFile(path.join(first.folders.uploads, 'left'), 'over');
    await first.close();
    const second = await openServices({ dataDir, compute: threadCompute() });
    expect(await readdir(second.folders.handOver)).toEqual(['day.m3u8']);
    expect(await readdir(second.folders.uploads)).toEqual([]);
    expect(await second.catalogue.stations()).toEqual([]);
    await second.close();
    await rm(dataDir, { recursive: true });
  });
});

describe('worker threads', () => {
  it('do the work, tell their errors as ours, and end when they are stopped', async () => {
    const compute = threadCompute();
    const file = path.join(server.dataDir, 'table.csv');
    await writeFile(file, 'Title,Artist\nOne,A\n');
    expect((await compute.run('sniffTable', [file, {}])).columns).toEqual(['Title', 'Artist']);
    await writeFile(file, '');
    await expect(compute.run('sniffTable', [file, {}])).rejects.toMatchObject({ code: 'NOT_A_TEXT' });
    await expect(compute.run('sniffTable', [file, {}], AbortSignal.abort())).rejects.toThrow();
    await compute.close();
  });
});

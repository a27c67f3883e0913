import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { LogView } from '@fuller/contracts';
import { logDocument } from './print/log-pdf.js';
import { endOfJob, testServer, TOMORROW, type TestServer } from './testing/test-server.js';

let server: TestServer;
const AT = `/api/stations/vale/logs/${TOMORROW}`;
beforeAll(async () => {
  server = await testServer();
  const job = await server.api.post('/api/stations/vale/generate').send({ from: TOMORROW }).expect(200);
  await endOfJob(server, job.body.id);
});
afterAll(() => server.close());

const ALL = { hours: [], marks: true, notes: true, commercials: true };
const printed = (choice: object) =>
  server.services.print.printed('vale', TOMORROW, { layout: 'list', ...ALL, ...choice });
const pdf = (query: string) =>
  server.api
    .get(`${AT}/print.pdf?${query}`)
    .buffer(true)
    .parse((response, done) => {
      const parts: Buffer[] = [];
      response.on('data', (part: Buffer) => parts.push(part));
      response.on('end', () => done(null, Buffer.concat(parts)));
    })
    .expect(200)
    .then(({ body }) => (body as Buffer).toString('latin1'));
/** How many pages a document says it has. */
const pages = (text: string): number => Number(/\/Type \/Pages[^>]*\/Count (\d+)/.exec(text)?.[1]);

describe('a printed log', () => {
  it('has every entry with its time, what it strains and its note, and leaves out what was not wanted', async () => {
    const view = (await server.api.get(AT)).body as LogView;
    const hour = view.log.hours[5]!;
    const [one, two] = hour.entries.filter(({ kind }) => kind === 'pick') as { id: string; itemId: string }[];
    const sameArtist = `song${(Number(one!.itemId.slice(4)) + 20) % 60}`;
    await server.api.post(`${AT}/edits`).send({
      revision: view.revision,
      edit: {
        type: 'batch',
        edits: [
          { type: 'replace', entryId: two!.id, itemId: sameArtist },
          { type: 'note', entryId: one!.id, note: 'Say hello' },
        ],
      },
    });
    const all = await printed({});
    expect(all).toMatchObject({ station: 'Radio vale', day: 'Tuesday 24 November 2026' });
    expect(all.hours).toHaveLength(24);
    const rows = all.hours[5]!.entries.filter(({ kind }) => kind === 'pick');
    expect(rows[0]).toMatchObject({ note: 'Say hello', marks: [] });
    expect(rows[1]!.marks).toEqual([expect.stringMatching(/artist.*short/)]);
    const bare = await printed({ hours: [5], marks: false, notes: false, commercials: false });
    expect(bare.hours).toHaveLength(1);
    expect(
      bare.hours[0]!.entries.every(({ note, marks, kind }) => !note && marks.length === 0 && kind !== 'break'),
    ).toBe(true);
    await server.api.get(`${AT}/print.pdf?hours=25`).expect(400);
    await server.api.get(`${AT}/print.pdf?layout=poster`).expect(400);
    await server.api.get('/api/stations/vale/logs/2027-01-01/print.pdf').expect(404);
  });

  it('has a page an hour as a studio sheet, and fewer as a list', async () => {
    const sheet = await pdf('layout=sheet');
    expect(sheet.startsWith('%PDF-')).toBe(true);
    expect(pages(sheet)).toBe(24);
    expect(pages(await pdf('layout=sheet&hours=5,6'))).toBe(2);
    expect(pages(await pdf('layout=list'))).toBeLessThan(20);
  });

  it('says so where there is nothing to print', async () => {
    const none = logDocument({ ...(await printed({ hours: [5] })), hours: [] }, 'list');
    expect(JSON.stringify(none.content)).toContain('nothing in these hours');
  });
});

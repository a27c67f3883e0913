import { describe, expect, it } from '@jest/globals';
import { proposeLayout } from '@fuller/core';
import { openPlace } from '../testing/place';
import { ImportTrafficStore } from './import-traffic.store';
import { readTextFile } from '../shared/read-text-file';

const TEXT = [
  '# DESK 2026-11-24',
  '06:12:00  SP10001  30  BAKERY       Loaves',
  '06:27:00  SP10002  20  CYCLES       Lights',
].join('\n');
const fileOf = (content: string | Uint8Array, name = 'spots.txt'): File => {
  const bytes = typeof content === 'string' ? new TextEncoder().encode(content) : content;
  // The browser of the tests does not read files.
  return Object.assign(new File([], name), {
    arrayBuffer: async () => bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength),
    text: async () => new TextDecoder().decode(bytes),
  });
};
const layout = proposeLayout(TEXT, 'Desk')!;
const kept = { id: 'l', revision: 1, name: 'Desk', layout };
const opened = () =>
  openPlace(ImportTrafficStore, {
    answers: { importTraffic: () => ({ placed: 2, activityId: 'a', label: 'Import' }) },
  });

describe('a file from traffic', () => {
  it.each([
    [new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0, 0]), 'is not a text'],
    ['  \n', 'is empty'],
  ])('that is no text is refused: %s', async (content, why) => {
    expect(await readTextFile(fileOf(content))).toMatchObject({ ok: false, why: expect.stringContaining(why) });
    const large = Object.defineProperty(fileOf('x'), 'size', { value: 200_000_000 });
    expect(await readTextFile(large)).toMatchObject({ ok: false, why: expect.stringContaining('too large') });
  });

  it('is read as UTF-8 where its bytes are that, and as Windows-1252 otherwise', async () => {
    expect(await readTextFile(fileOf('Café'))).toEqual({ ok: true, text: 'Café' });
    expect(await readTextFile(fileOf(new Uint8Array([0x43, 0xe9])))).toEqual({ ok: true, text: 'Cé' });
  });

  it('is tried by the station’s layout, by its own where that reads nothing, and imported when the person says so', async () => {
    const { store, server } = opened();
    await store.open('vale', '2026-11-24', fileOf(TEXT), kept);
    expect(store.layout()).toEqual(layout);
    expect(server.asked('importTraffic')[0]?.body).toMatchObject({ dryRun: true, fileName: 'spots.txt' });
    await store.open('vale', '2026-11-24', fileOf('6:12 AM;:30;A1;BAKERY\n6:19 AM;:30;A2;SHOP\n', 'other.txt'), kept);
    expect([store.layout().delimiter, store.read()?.spots.length]).toEqual([';', 2]);
    expect(await store.commit()).toBe(true);
    expect(server.asked('importTraffic').at(-1)?.body).toMatchObject({ dryRun: false, fileName: 'other.txt' });
    expect(store.file()).toBeNull();
  });

  it('says what its layout lacks before anything is asked, and takes a shared layout or says why not', async () => {
    const { store, server, settle } = opened();
    await store.open('vale', '2026-11-24', fileOf(TEXT), null);
    const asked = server.asked('importTraffic').length;
    store.setLayout({ ...layout, columns: layout.columns.filter(({ means }) => means !== 'length') });
    await settle(300);
    expect([store.problem(), store.outcome(), server.asked('importTraffic').length]).toEqual([
      'There is no column for the length.',
      null,
      asked,
    ]);
    expect(await store.openLayout(fileOf('{"format": "other"}', 'x.json'))).toContain('“x.json” is no layout: ');
    expect(await store.openLayout(fileOf('nothing', 'x.json'))).toContain('it is not JSON');
    expect(await store.openLayout(fileOf(JSON.stringify(layout), 'x.json'))).toBeNull();
    expect(store.fault()).toBeNull();
  });
});

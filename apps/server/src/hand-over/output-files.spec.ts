import { createHash } from 'node:crypto';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { dropParts, manifestOf, placeFiles, sweep, writeParts } from './output-files.js';

describe('the files of a hand-over', () => {
  let folder = '';
  const there = () => readdirSync(folder).sort();
  const parts = (...files: string[]) => ({ id: 'h1', folder, files, manifest: null as string | null });
  const file = (name: string, text: string) => ({ name, bytes: Buffer.from(text), entries: 1 });

  beforeEach(() => void (folder = path.join(mkdtempSync(path.join(os.tmpdir(), 'fuller-out-')), 'station/day')));
  afterEach(() => rmSync(path.dirname(path.dirname(folder)), { recursive: true }));

  it('are written beside their places, in a folder that is made, and then put there', async () => {
    await writeParts(folder, 'h1', [file('a.m3u8', 'A'), file('b.m3u8', 'B')]);
    expect(there()).toEqual(['a.m3u8.fuller-part-h1', 'b.m3u8.fuller-part-h1']);
    await placeFiles(parts('a.m3u8', 'b.m3u8'));
    expect(there()).toEqual(['a.m3u8', 'b.m3u8']);
    expect(readFileSync(path.join(folder, 'b.m3u8'), 'utf8')).toBe('B');
  });

  it('take the place of older ones, whole', async () => {
    mkdirSync(folder, { recursive: true });
    writeFileSync(path.join(folder, 'a.m3u8'), 'older and longer');
    await writeParts(folder, 'h1', [file('a.m3u8', 'new')]);
    expect(readFileSync(path.join(folder, 'a.m3u8'), 'utf8')).toBe('older and longer');
    await placeFiles(parts('a.m3u8'));
    expect(readFileSync(path.join(folder, 'a.m3u8'), 'utf8')).toBe('new');
  });

  it('are put in their places by a second try where the first was stopped halfway', async () => {
    await writeParts(folder, 'h1', [file('a.m3u8', 'A'), file('b.m3u8', 'B')]);
    await placeFiles(parts('a.m3u8'));
    await placeFiles(parts('a.m3u8', 'b.m3u8'));
    expect(there()).toEqual(['a.m3u8', 'b.m3u8']);
  });

  it('cannot be put in their places where they were never written', async () => {
    mkdirSync(folder, { recursive: true });
    await expect(placeFiles(parts('a.m3u8'))).rejects.toMatchObject({ code: 'ENOENT' });
  });

  it('leave nothing when they are given up, and nothing half-written is left by a stop', async () => {
    await writeParts(folder, 'h1', [file('a.m3u8', 'A')]);
    await dropParts(parts('a.m3u8', 'never.m3u8'));
    expect(there()).toEqual([]);
    await writeParts(folder, 'h2', [file('b.m3u8', 'B')]);
    writeFileSync(path.join(folder, 'kept.m3u8'), 'K');
    await sweep(path.dirname(path.dirname(folder)));
    expect(there()).toEqual(['kept.m3u8']);
    await sweep(path.join(folder, 'nowhere'));
  });

  it('have a manifest with their checksums; there is none rather than one that disagrees', async () => {
    const about = { station: 'Vale', date: '2026-11-24', output: 'Playlist', logRevision: 3, writtenAt: '' };
    const write = async (id: string, text: string) => {
      const files = [file('a.m3u8', text), file('b.m3u8', text)];
      const manifest = manifestOf(files, about);
      await writeParts(folder, id, [...files, manifest]);
      return { id, folder, files: files.map(({ name }) => name), manifest: manifest.name };
    };
    const listed = () => JSON.parse(readFileSync(path.join(folder, 'a.m3u8.manifest.json'), 'utf8')).files;
    await placeFiles(await write('h1', 'A'));
    expect(listed()).toMatchObject([
      { name: 'a.m3u8', bytes: 1, sha256: createHash('sha256').update('A').digest('hex') },
      {},
    ]);
    // Another output of other names leaves it; a stop between the files and the manifest leaves none.
    writeFileSync(path.join(folder, 'c.m3u8.manifest.json'), JSON.stringify({ files: [{ name: 'c.m3u8' }] }));
    const next = await write('h2', 'B');
    await placeFiles({ ...next, manifest: null });
    expect(there()).toEqual(['a.m3u8', 'a.m3u8.manifest.json.fuller-part-h2', 'b.m3u8', 'c.m3u8.manifest.json']);
    await placeFiles(next);
    expect(listed()).toMatchObject([{ sha256: createHash('sha256').update('B').digest('hex') }, {}]);
    expect(there()).toEqual(['a.m3u8', 'a.m3u8.manifest.json', 'b.m3u8', 'c.m3u8.manifest.json']);
  });
});

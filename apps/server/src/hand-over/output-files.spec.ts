import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { dropParts, placeFiles, sweep, writeParts } from './output-files.js';

describe('the files of a hand-over', () => {
  let folder = '';
  const there = () => readdirSync(folder).sort();
  const parts = (...files: string[]) => ({ id: 'h1', folder, files });

  beforeEach(() => void (folder = path.join(mkdtempSync(path.join(os.tmpdir(), 'fuller-out-')), 'station/day')));
  afterEach(() => rmSync(path.dirname(path.dirname(folder)), { recursive: true }));

  it('are written beside their places, in a folder that is made, and then put there', async () => {
    await writeParts(folder, 'h1', [
      { name: 'a.m3u8', text: 'A' },
      { name: 'b.m3u8', text: 'B' },
    ]);
    expect(there()).toEqual(['a.m3u8.fuller-part-h1', 'b.m3u8.fuller-part-h1']);
    await placeFiles(parts('a.m3u8', 'b.m3u8'));
    expect(there()).toEqual(['a.m3u8', 'b.m3u8']);
    expect(readFileSync(path.join(folder, 'b.m3u8'), 'utf8')).toBe('B');
  });

  it('take the place of older ones, whole', async () => {
    mkdirSync(folder, { recursive: true });
    writeFileSync(path.join(folder, 'a.m3u8'), 'older and longer');
    await writeParts(folder, 'h1', [{ name: 'a.m3u8', text: 'new' }]);
    expect(readFileSync(path.join(folder, 'a.m3u8'), 'utf8')).toBe('older and longer');
    await placeFiles(parts('a.m3u8'));
    expect(readFileSync(path.join(folder, 'a.m3u8'), 'utf8')).toBe('new');
  });

  it('are put in their places by a second try where the first was stopped halfway', async () => {
    await writeParts(folder, 'h1', [
      { name: 'a.m3u8', text: 'A' },
      { name: 'b.m3u8', text: 'B' },
    ]);
    await placeFiles(parts('a.m3u8'));
    await placeFiles(parts('a.m3u8', 'b.m3u8'));
    expect(there()).toEqual(['a.m3u8', 'b.m3u8']);
  });

  it('cannot be put in their places where they were never written', async () => {
    mkdirSync(folder, { recursive: true });
    await expect(placeFiles(parts('a.m3u8'))).rejects.toMatchObject({ code: 'ENOENT' });
  });

  it('leave nothing when they are given up, and nothing half-written is left by a stop', async () => {
    await writeParts(folder, 'h1', [{ name: 'a.m3u8', text: 'A' }]);
    await dropParts(parts('a.m3u8', 'never.m3u8'));
    expect(there()).toEqual([]);
    await writeParts(folder, 'h2', [{ name: 'b.m3u8', text: 'B' }]);
    writeFileSync(path.join(folder, 'kept.m3u8'), 'K');
    await sweep(path.dirname(path.dirname(folder)));
    expect(there()).toEqual(['kept.m3u8']);
    await sweep(path.join(folder, 'nowhere'));
  });
});

import { mkdirSync, mkdtempSync, realpathSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { audioFiles, freePlace, isAudioFile, moveFile, safeRelative } from './audio-files.js';
import { AudioRoots } from './audio-roots.js';

let folder = '';
let own = '';
const put = (name: string): string => {
  const file = path.join(folder, name);
  mkdirSync(path.dirname(file), { recursive: true });
  writeFileSync(file, 'x');
  return file;
};

beforeAll(() => {
  folder = realpathSync(mkdtempSync(path.join(os.tmpdir(), 'fuller-places-')));
  own = path.join(folder, 'data/audio');
  put('data/audio/music/a.wav');
  put('data/audio/music/B.MP3');
  put('data/audio/music/cover.jpg');
  put('data/audio/z.flac');
  put('music-of-others/c.wav');
  put('secret/d.wav');
  symlinkSync(path.join(folder, 'secret'), path.join(own, 'way-out'));
  symlinkSync(path.join(folder, 'secret/d.wav'), path.join(own, 'link.wav'));
});
afterAll(() => rmSync(folder, { recursive: true }));

describe('audio files', () => {
  it('are found below a folder in order, links not followed, other files left aside', async () => {
    const found = await audioFiles(own);
    expect(found.map((file) => path.relative(own, file))).toEqual(['music/B.MP3', 'music/a.wav', 'z.flac']);
    expect(await audioFiles(path.join(folder, 'nowhere'))).toEqual([]);
  });

  it.each(['a.wav', 'A.FLAC', 'b.m4a', 'c.opus'])('%s is one', (name) => expect(isAudioFile(name)).toBe(true));
  it.each(['a.txt', 'wav', 'a.wav.exe', '.wav.part'])('%s is none', (name) => expect(isAudioFile(name)).toBe(false));

  it('take a place where no other file is', async () => {
    expect(freePlace(own, 'music/new.wav')).toBe('music/new.wav');
    expect(freePlace(own, 'music/a.wav')).toBe('music/a (2).wav');
    await moveFile(put('data/audio/upload'), path.join(own, 'music/a (2).wav'));
    expect(freePlace(own, 'music/a.wav')).toBe('music/a (3).wav');
  });
});

describe('a path a browser tells', () => {
  it.each([
    ['Album/01 Ember.wav', 'Album/01 Ember.wav'],
    ['C:\\Music\\a.wav', null],
    ['\\Album\\.\\a.wav', 'Album/a.wav'],
    ['/etc/../a.wav', null],
    ['a.txt', null],
    ['', null],
    ['a\u0000.wav', null],
    [`${'x/'.repeat(13)}a.wav`, null],
    [`${'x'.repeat(201)}.wav`, null],
  ])('%j is kept as %j', (said, kept) => {
    if (kept === null) expect(() => safeRelative(said)).toThrow();
    else expect(safeRelative(said)).toBe(kept);
  });

  it('never leads out of the folder it is kept in', () => {
    const part = fc.constantFrom('..', '.', '', 'a', '/', '\\', 'b.wav', '...', '~', ' ');
    fc.assert(
      fc.property(fc.array(part, { maxLength: 8 }), fc.constantFrom('/', '\\'), (parts, between) => {
        let kept: string;
        try {
          kept = safeRelative(parts.join(between));
        } catch {
          return;
        }
        expect(path.resolve('/root/folder', kept).startsWith('/root/folder/')).toBe(true);
      }),
    );
  });
});

describe('the folders audio is read from', () => {
  const roots = () => new AudioRoots(own, [path.join(folder, 'music-of-others')]);

  it('hold their files, by a name below the own one or by a whole path', () => {
    expect(roots().fileAt('music/a.wav')).toBe(path.join(own, 'music/a.wav'));
    const other = path.join(folder, 'music-of-others/c.wav');
    expect(roots().fileAt(other)).toBe(other);
    expect([roots().storedName(path.join(own, 'z.flac')), roots().storedName(other)]).toEqual(['z.flac', other]);
  });

  it.each(['../../secret/d.wav', 'link.wav', 'way-out/d.wav', 'music', 'music/none.wav', 'a\0.wav', '/etc/passwd'])(
    'do not hold %j',
    (name) => expect(roots().fileAt(name)).toBeNull(),
  );

  it('are opened themselves and below, and nowhere else', async () => {
    expect(await roots().folderAt('music')).toBe(path.join(own, 'music'));
    expect(await roots().folderAt(own)).toBe(own);
    await expect(roots().folderAt('../../secret')).rejects.toThrow('is outside the folders Fuller reads audio from');
    await expect(roots().folderAt('way-out')).rejects.toThrow('There is no folder “way-out” on the server.');
    await expect(roots().folderAt('music/a.wav')).rejects.toThrow('There is no folder');
    await expect(roots().folderAt('a\0b')).rejects.toMatchObject({ code: 'INVALID', field: 'folder' });
  });
});

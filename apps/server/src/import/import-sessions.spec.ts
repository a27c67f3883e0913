import { mkdtempSync, readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { ImportSession } from '@fuller/contracts';
import { ImportSessions } from './import-sessions.js';

const view = (id: string): ImportSession => ({
  id,
  source: 'table',
  format: 'table',
  name: `${id}.csv`,
  settings: null,
  options: { makeCategories: false, folderCategories: false },
  columns: [],
  preview: [],
  summary: null,
  done: false,
});

describe('the imports that have been begun', () => {
  let folder = '';
  const open = (now = Date.now()) => new ImportSessions(folder, () => now);
  const upload = (name: string): string => {
    const file = path.join(folder, name);
    writeFileSync(file, 'title\nEmber\n');
    return file;
  };
  beforeEach(() => void (folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-uploads-'))));
  afterEach(() => rmSync(folder, { recursive: true }));

  it('are there after a restart, as they were changed last', async () => {
    const before = open();
    before.keep('vale', upload('u1'), view('i1'));
    before.change('i1', { done: true });
    const after = open();
    await after.recover();
    expect(after.mustFind('i1')).toMatchObject({ stationId: 'vale', only: null, view: { name: 'i1.csv', done: true } });
    expect(() => after.mustFind('i2')).toThrow('There is no import “i2”.');
  });

  it('are forgotten with their uploads when nobody has touched them for three days', async () => {
    const file = upload('u1');
    open().keep('vale', file, view('i1'));
    const old = new Date(Date.now() - 4 * 86_400_000);
    utimesSync(path.join(folder, 'i1.import.json'), old, old);
    const after = open();
    await after.recover();
    expect(() => after.mustFind('i1')).toThrow();
    expect(readdirSync(folder)).toEqual([]);
  });

  it('leave nothing behind that belongs to none of them', async () => {
    open().keep('vale', upload('u1'), view('i1'));
    upload('nobody');
    writeFileSync(path.join(folder, 'broken.import.json'), '{broken');
    // What it was to read is gone.
    open().keep('vale', path.join(folder, 'gone'), view('i2'));
    const after = open();
    await after.recover();
    expect(readdirSync(folder).sort()).toEqual(['i1.import.json', 'u1']);
  });

  it('are forgotten one by one; what they read stays', async () => {
    const sessions = open();
    sessions.keep('vale', upload('u1'), view('i1'), ['a.wav']);
    expect(sessions.mustFind('i1').only).toEqual(['a.wav']);
    await sessions.forget('i1');
    expect(() => sessions.mustFind('i1')).toThrow();
    expect(readdirSync(folder)).toEqual(['u1']);
  });
});

import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { addDays } from '@fuller/core';

const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-cli-'));
const data = path.join(folder, 'data');
const today = new Date().toLocaleDateString('sv', { timeZone: 'Europe/Dublin' });
const later = addDays(today, 10);

function fuller(...args: string[]): {
  code: number | null;
  out: string;
  err: string;
  json<T = Record<string, unknown>>(): T;
} {
  const done = spawnSync(process.execPath, ['bin/fuller', ...args], { encoding: 'utf8' });
  return { code: done.status, out: done.stdout, err: done.stderr, json: () => JSON.parse(done.stdout) as never };
}

beforeAll(() => {
  expect(fuller('init', '--data', data, '--demo', '--weeks', '0', '--json')).toMatchObject({
    code: 0,
    out: `${JSON.stringify({ data, demo: true })}\n`,
  });
}, 120_000);
afterAll(() => rmSync(folder, { recursive: true }));

describe('fuller', () => {
  it('generates days and prints one JSON document and nothing else', () => {
    const done = fuller('generate', '--data', data, '--from', later, '--days', '2', '--seed', '5', '--json');
    const { days } = done.json<{
      days: { date: string; slots: number; filled: number; open: unknown[]; hours: unknown[] }[];
    }>();
    expect(days.map((day) => day.date)).toEqual([later, addDays(later, 1)]);
    expect(done.code).toBe(days.some((day) => day.open.length) ? 3 : 0);
    for (const day of days) expect([day.filled + day.open.length, day.hours.length]).toEqual([day.slots, 24]);
  });

  it('refuses to generate where no clock runs', () => {
    const impossible = path.join(folder, 'empty');
    expect(fuller('init', '--data', impossible, '--json').code).toBe(0);
    const done = fuller('generate', '--data', impossible, '--from', later);
    expect(done.code).toBe(2);
    expect(done.err).toContain('No clock runs');
  });

  it('exports what it generated, whole files only, and lists what is left out', () => {
    const out = path.join(folder, 'out');
    const done = fuller('export', '--data', data, '--date', later, '--out', out, '--hourly', '--json');
    expect(done.code).toBe(0);
    expect(done.json()['files']).toHaveLength(24);
    expect(readdirSync(out).sort()).toEqual([...(done.json()['files'] as string[])].sort());
    expect(readFileSync(path.join(out, readdirSync(out)[0]!), 'utf8')).toMatch(/^#EXTM3U\n/);
    expect((done.json()['heldBack'] as { why: string }[]).map((held) => held.why)).toContain('file not there');
  });

  it('imports a table, first dry, with a mapping, into a category', () => {
    const table = path.join(folder, 'songs.csv');
    const mapping = path.join(folder, 'mapping.json');
    writeFileSync(table, 'Eins;Nuala;3:10\nZwei;Piers;nonsense\n');
    writeFileSync(mapping, JSON.stringify({ header: false, mapping: ['title', 'artist', 'duration'] }));
    const args = ['import', 'library', table, '--data', data, '--mapping', mapping, '--category', 'fresh', '--json'];
    const dry = fuller(...args, '--dry-run').json();
    expect(dry).toEqual({
      read: 2,
      added: 1,
      changed: 0,
      rejected: [{ row: 2, column: 'duration', why: expect.stringContaining('“nonsense”') }],
    });
    expect(fuller(...args).json()).toEqual(dry);
    expect(fuller(...args).json()).toMatchObject({ added: 0, changed: 0 });
  });

  it('imports a folder of tagged audio', () => {
    const { read, added } = fuller(
      'import',
      'library',
      path.join(data, 'audio/incoming'),
      '--data',
      data,
      '--json',
    ).json();
    expect([read, added]).toEqual([8, 8]);
  });

  it.each([
    [['generate', '--data', data, '--from', '2026-13-01'], 'Write a date'],
    [['generate', '--data', data, '--from', '2020-01-01'], 'has aired'],
    [['generate', '--data', path.join(folder, 'none'), '--from', later], 'holds no data'],
    [['generate', '--data', data, '--station', 'ghost', '--from', later], 'no station “ghost”'],
    [['export', '--data', data, '--date', '2030-01-01', '--out', folder], 'There is no log'],
    [['export', '--data', data, '--date', later, '--out', folder, '--pattern', '../x'], 'cannot hold'],
    [['import', 'library', path.join(folder, 'nothing.csv'), '--data', data], 'no file or folder'],
    [['init', '--data', data], 'is not empty'],
    [['dance'], 'unknown command'],
  ])('exits with 2 and names what is wrong: %j', (args, why) => {
    const done = fuller(...args);
    expect(done.code).toBe(2);
    expect(done.err).toContain(why);
    expect(fuller(...args, '--json').code).toBe(2);
  });

  it('leaves an unreadable table alone', () => {
    const broken = path.join(folder, 'empty.csv');
    writeFileSync(broken, '');
    const done = fuller('import', 'library', broken, '--data', data, '--json');
    expect(done.code).toBe(2);
    expect(done.json()).toEqual({ error: { code: 'NOT_A_TEXT', message: 'The file is empty.' } });
    expect(existsSync(broken)).toBe(true);
  });

  describe('solve', () => {
    const instance = {
      format: 'fuller-instance',
      version: 1,
      items: [
        { id: 'a', duration: 200, tags: { artist: ['x'] } },
        { id: 'b', duration: 200, tags: { artist: ['y'] } },
      ],
      pools: { P: { items: ['a', 'b'] } },
      slots: [0, 300, 600].map((start, s) => ({ id: `s${s}`, start, hour: 0, pool: 'P' })),
      history: [],
      rules: [{ id: 'r', shape: 'streak', tag: 'artist', max: 1, strength: 'hard' }],
    };
    const file = path.join(folder, 'instance.json');
    const out = path.join(folder, 'solution.json');
    const write = (value: unknown): void =>
      writeFileSync(file, typeof value === 'string' ? value : JSON.stringify(value));

    it('writes the same solution from a plain file and a gzipped one, and says how it went', () => {
      write(instance);
      const plain = fuller('solve', file, '--out', out, '--json');
      expect(plain.json()).toMatchObject({ out, open: 0, soft: {}, bound: { open: 0 } });
      const first = readFileSync(out, 'utf8');
      expect((JSON.parse(first) as { assignment: object }).assignment).toMatchObject({ s0: expect.any(String) });
      writeFileSync(`${file}.gz`, gzipSync(JSON.stringify(instance)));
      expect(fuller('solve', `${file}.gz`, '--out', out)).toMatchObject({
        code: 0,
        out: expect.stringContaining('every slot filled'),
      });
      expect(readFileSync(out, 'utf8')).toBe(first);
    });

    it.each<[string, unknown, string]>([
      ['cut-off JSON', '{"format":\n  "fuller-', 'line 2, column'],
      ['another format', { format: 'song-list' }, 'format must be fuller-instance'],
      [
        'an id that is not there',
        { ...instance, slots: [{ ...instance.slots[0], pool: 'Q' }] },
        'slots[0].pool no pool “Q”',
      ],
    ])('refuses %s, naming where, and writes nothing', (_, value, why) => {
      write(value);
      rmSync(out, { force: true });
      const done = fuller('solve', file, '--out', out);
      expect([done.code, existsSync(out)]).toEqual([2, false]);
      expect(done.err).toContain(why);
    });

    it.each([
      [[path.join(folder, 'none.json'), '--out', out], 'there is no such file'],
      [[file, '--out', path.join(folder, 'no/such/folder.json')], 'cannot be written'],
      [[file, '--out', out, '--seed', '1.5'], 'Write a whole number'],
      [[file, '--out', out, '--effort', 'heroic'], 'Allowed choices'],
    ])('names what is wrong: %j', (args, why) => {
      write(instance);
      const done = fuller('solve', ...args);
      expect(done.code).toBe(2);
      expect(done.err).toContain(why);
    });
  });

  it('helps', () => {
    expect(fuller('--help')).toMatchObject({ code: 0, out: expect.stringContaining('Exit codes') });
    expect(fuller('import', 'library', '--help').out).toContain('--dry-run');
  });
});

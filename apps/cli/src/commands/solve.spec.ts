import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { afterAll, describe, expect, it } from '@jest/globals';
import { fuller } from '../testing/run-fuller.js';

const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-solve-'));
afterAll(() => rmSync(folder, { recursive: true }));

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

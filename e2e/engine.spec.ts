import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from '@jest/globals';
import type { Instance } from '@fuller/core';
import { build } from 'esbuild';
import { fuller, openBrowser } from './support/fuller.js';

const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-engine-'));
afterAll(() => rmSync(folder, { recursive: true }));

/** Two hours with more asked of them than they can give, so that every part of the search has work. */
function busy(): Instance {
  const items = Array.from({ length: 30 }, (_, i) => ({
    id: `i${i}`,
    duration: 160 + ((i * 37) % 90),
    tags: { title: [`t${i}`], artist: [`a${i % 9}`], voice: [['low', 'high', 'both'][i % 3]!] },
  }));
  return {
    format: 'fuller-instance',
    version: 1,
    items,
    pools: {
      A: { items: items.slice(0, 6).map((item) => item.id), order: 'even' },
      B: { items: items.slice(6).map((item) => item.id), order: 'even' },
    },
    slots: Array.from({ length: 32 }, (_, s) => ({
      id: `s${s}`,
      start: s * 225,
      hour: Math.floor(s / 16),
      pool: s % 4 === 0 ? 'A' : 'B',
    })),
    history: Array.from({ length: 90 }, (_, n) => ({ item: `i${(n * 7) % 30}`, start: -225 * (90 - n) })),
    rules: [
      { id: 'r1', shape: 'apart', tag: 'artist', seconds: 1400, strength: 'hard' },
      { id: 'r2', shape: 'apart', tag: 'title', seconds: 4200, strength: 'hard' },
      { id: 'r3', shape: 'streak', tag: 'voice', max: 1, strength: 'soft', rank: 1 },
      { id: 'r4', shape: 'atLeast', tag: 'voice', value: 'high', count: 7, window: 'hour', strength: 'soft', rank: 2 },
    ],
  };
}

describe('the engine', () => {
  it.each(['quick', 'normal'])(
    'gives the same bytes on the command line and in the browser, %s',
    async (effort) => {
      const [file, out] = [path.join(folder, 'instance.json'), path.join(folder, 'solution.json')];
      writeFileSync(file, JSON.stringify(busy()));
      const done = fuller('solve', file, '--out', out, '--seed', '7', '--effort', effort, '--json');
      expect(done.stderr).toBe('');
      const { outputFiles } = await build({
        stdin: {
          contents: `import { solve } from '@fuller/core'; globalThis.fullerSolve = solve;`,
          resolveDir: import.meta.dirname,
        },
        bundle: true,
        write: false,
        platform: 'browser',
        format: 'iife',
      });
      const browser = await openBrowser();
      try {
        const page = await browser.newPage();
        await page.evaluate(outputFiles[0]!.text);
        const solved = await page.evaluate(
          (instance, effort) => {
            const { fullerSolve } = globalThis as unknown as {
              fullerSolve: (instance: unknown, options: object) => unknown;
            };
            return JSON.stringify(fullerSolve(instance, { seed: 7, effort }));
          },
          busy() as never,
          effort,
        );
        expect(`${solved}\n`).toBe(readFileSync(out, 'utf8'));
        const { score } = JSON.parse(solved) as { score: { open: number; soft: Record<string, number> } };
        expect(score.open + score.soft['1']! + score.soft['2']!).toBeGreaterThan(0);
        expect(JSON.parse(solved).stats.conflicts).toBeGreaterThan(0);
      } finally {
        await browser.close();
      }
    },
    60_000,
  );
});

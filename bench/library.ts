import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { VALE } from '@fuller/demo';
import type { Services } from '@fuller/server';
import { ms, table, timed } from './table.js';

const UNWATCHED = { signal: new AbortController().signal, progress: () => {} };

async function importRows(
  services: Services,
  count: number,
  mark: string,
): Promise<{ dry: number; write: number; undo: number }> {
  const folder = await mkdtemp(path.join(os.tmpdir(), 'fuller-bench-'));
  const file = path.join(folder, 'songs.csv');
  const rows = Array.from(
    { length: count },
    (_, index) =>
      `River ${mark}${index},Act ${index % 5000},Album ${index % 9000},${1960 + (index % 60)},3:${String(index % 60).padStart(2, '0')},${mark}${index},Gold deep`,
  );
  await writeFile(file, ['Title,Artist,Album,Year,Length,Cart,Category', ...rows].join('\n'));
  const session = await services.imports.openTable(VALE, file, 'songs.csv');
  const dry = await timed(1, () => services.imports.dryRun(session.id, UNWATCHED));
  let activityId = '';
  const write = await timed(1, async () => {
    activityId = (await services.imports.commit(session.id, 'bench', UNWATCHED)).activityId!;
  });
  const undo = count <= 10_000 ? await timed(1, () => services.store.undoing.undo(activityId, 'bench')) : Number.NaN;
  await rm(folder, { recursive: true });
  return { dry, write, undo };
}

/** Time to import, and to page and search through the library as it grows. */
export async function library(services: Services): Promise<string> {
  const small = await importRows(services, 10_000, 'S');
  const before = await pages(services, 'demo');
  const large = await importRows(services, 100_000, 'L');
  const after = await pages(services, 'with 100,000 more');
  const seconds = (value: number): string => (Number.isNaN(value) ? 'not measured' : `${(value / 1000).toFixed(1)} s`);
  return [
    table(
      'Importing a table',
      ['rows', 'dry run', 'write', 'undo'],
      [
        ['10,000', seconds(small.dry), seconds(small.write), seconds(small.undo)],
        ['100,000', seconds(large.dry), seconds(large.write), seconds(large.undo)],
      ],
    ),
    table(
      'A page of the library',
      ['items', 'by title', 'by last played', 'deep page', 'search one word', 'search two words'],
      [before, after],
    ),
  ].join('\n');
}

async function pages({ library: items }: Services, name: string): Promise<(string | number)[]> {
  const list = (query: object) => () =>
    items.list(VALE, { sort: 'title', dir: 'asc', offset: 0, limit: 100, ...query } as never);
  const { total } = await list({})();
  return [
    `${total.toLocaleString('en-GB')} (${name})`,
    ms(await timed(5, list({}))),
    ms(await timed(3, list({ sort: 'lastPlayed', dir: 'desc' }))),
    ms(await timed(5, list({ offset: Math.max(0, total - 200) }))),
    ms(await timed(5, list({ q: 'river' }))),
    ms(await timed(5, list({ q: 'bright riv' }))),
  ];
}

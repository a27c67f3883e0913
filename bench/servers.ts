import { elementAt } from '@fuller/core';
import { VALE } from '@fuller/demo';
import { moveData } from '@fuller/server';
import { startPostgres } from '../scripts/postgres.mjs';
import { startServer, type RunningServer } from './running-server.js';
import { ms, percentile, table } from './table.js';

const KILLS = 30;
const EDITORS = 4;
const ITEMS = 60;
const BETWEEN_KILLS_MS = 2_000;

interface Card {
  readonly revision: number;
  readonly notes: string;
}

/** Two servers on one database: what is edited while one of them is killed again and again, and whether any edit is lost. */
export async function servers(dataDir: string, kills = KILLS): Promise<string> {
  const postgres = await startPostgres({ durable: true });
  if (!postgres) return table('Two servers on one database', ['what'], [['There is no PostgreSQL here']]);
  const database = `${postgres.url}/fuller`;
  await moveData({ dataDir }, { database });
  const start = (): Promise<RunningServer> =>
    startServer(dataDir, ['--no-accounts', '--no-standins', '--database', database]);
  const running = [await start(), await start()];
  const items = `stations/${VALE}/items`;
  const { rows } = await elementAt(running, 0).get<{ rows: { id: string }[] }>(`${items}?limit=${ITEMS}`);
  const done = new Map<string, (Card & { readonly tookMs: number })[]>();
  let [going, failed] = [true, 0];
  const edit = async (n: number): Promise<void> => {
    for (let count = n; going; count++) {
      const { id } = elementAt(rows, (count * 7) % rows.length);
      const server = elementAt(running, Math.floor(Math.random() * 2));
      try {
        const { revision } = await server.get<Card>(`${items}/${id}`);
        const notes = `Note ${n} ${count}`;
        const began = performance.now();
        await server.send('PATCH', `${items}/${id}`, { revision, notes });
        done.set(id, [...(done.get(id) ?? []), { revision, notes, tookMs: performance.now() - began }]);
      } catch {
        failed++;
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
    }
  };
  const editing = Array.from({ length: EDITORS }, (_, n) => edit(n));
  for (let kill = 0; kill < kills; kill++) {
    await new Promise((resolve) => setTimeout(resolve, Math.random() * BETWEEN_KILLS_MS));
    await elementAt(running, kill % 2).kill();
    running[kill % 2] = await start();
  }
  going = false;
  await Promise.all(editing);
  let [lost, twice] = [0, 0];
  for (const [id, edits] of done) {
    const card = await elementAt(running, 0).get<Card>(`${items}/${id}`);
    const latest = edits.reduce((a, b) => (a.revision > b.revision ? a : b));
    // One more may have been written whose answer never came.
    if (card.revision <= latest.revision || (card.revision === latest.revision + 1 && card.notes !== latest.notes))
      lost++;
    if (new Set(edits.map(({ revision }) => revision)).size < edits.length) twice++;
  }
  for (const server of running) await server.stop();
  await postgres.stop();
  const took = [...done.values()].flat().map(({ tookMs }) => tookMs);
  return table(
    'Two servers on one database, killed by turns',
    ['what', 'measured'],
    [
      ['kills', kills],
      ['edits that were answered', took.length],
      ['half of them within', ms(percentile(took, 0.5))],
      ['99 of 100 within', ms(percentile(took, 0.99))],
      ['asked of a server that was gone, or refused', failed],
      ['items whose last edit was lost', lost],
      ['revisions that two edits were answered with', twice],
    ],
  );
}

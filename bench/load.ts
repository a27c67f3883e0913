import { cp, mkdtemp, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { elementAt, addDays, localTimeOf } from '@fuller/core';
import type { ImportSession, JobView, LogView } from '@fuller/contracts';
import { startServer, type RunningServer } from './running-server.js';
import { median, ms, percentile, table } from './table.js';

const VALE = 'osier-vale';
const READERS = 50;
const SECONDS = 10;
const EDITS = 60;

/** Fifty readers, edits, and what the server still answers while it works hard; over HTTP against the built program. */
export async function load(demoDir: string): Promise<string> {
  const folder = await mkdtemp(path.join(os.tmpdir(), 'fuller-load-'));
  const dataDir = path.join(folder, 'data');
  await cp(demoDir, dataDir, { recursive: true });
  await rm(path.join(dataDir, 'owner.json'), { force: true });
  const server = await startServer(dataDir);
  try {
    const today = localTimeOf(Date.now(), 'Europe/Dublin').date;
    const parts = [await readers(server, today)];
    parts.push(await imports(server, 10_000));
    parts.push(await edits(server, addDays(today, 2), '11,700 items'));
    parts.push(await whileBusy(server, today));
    parts.push(await imports(server, 100_000));
    parts.push(await slowest(server, today));
    return parts.join('\n');
  } finally {
    await server.stop();
    await rm(folder, { recursive: true, force: true });
  }
}

/** Mixed readers of logs, cold and warm. */
async function readers(server: RunningServer, today: string): Promise<string> {
  const places = Array.from({ length: 8 }, (_, day) => `stations/${VALE}/logs/${addDays(today, day)}`);
  const run = async (): Promise<{ took: number[]; failed: number; seconds: number }> => {
    const until = performance.now() + SECONDS * 1000;
    const took: number[] = [];
    let failed = 0;
    const reader = async (n: number): Promise<void> => {
      for (let k = n; performance.now() < until; k++) {
        const startedAt = performance.now();
        await server.get(elementAt(places, k % places.length)).catch(() => failed++);
        took.push(performance.now() - startedAt);
      }
    };
    const startedAt = performance.now();
    await Promise.all(Array.from({ length: READERS }, (_, n) => reader(n)));
    return { took, failed, seconds: (performance.now() - startedAt) / 1000 };
  };
  const rows: string[][] = [];
  for (const name of ['first, nothing kept yet', 'again']) {
    const { took, failed, seconds } = await run();
    rows.push([
      name,
      `${Math.round(took.length / seconds)}`,
      ms(median(took)),
      ms(percentile(took, 0.99)),
      `${failed}`,
    ]);
  }
  return table(`${READERS} readers of eight days’ logs`, ['', 'reads a second', 'median', 'p99', 'failed'], rows);
}

async function edits(server: RunningServer, date: string, items: string): Promise<string> {
  const where = `stations/${VALE}/logs/${date}`;
  let view = await server.get<LogView>(where);
  const slots = view.log.hours.flatMap(({ entries }) =>
    entries.filter((entry) => entry.kind === 'pick' && entry.itemId && !entry.out),
  );
  const took: number[] = [];
  for (let n = 0; n < EDITS; n++) {
    const entry = elementAt(slots, (n * 7) % slots.length) as { id: string };
    const itemId = (elementAt(slots, (n * 7 + 40) % slots.length) as { itemId: string }).itemId;
    const startedAt = performance.now();
    view = await server.send<LogView>('POST', `${where}/edits`, {
      revision: view.revision,
      edit: { type: 'replace', entryId: entry.id, itemId },
    });
    took.push(performance.now() - startedAt);
  }
  return table(
    `${EDITS} edits one after the other, ${items}`,
    ['', 'median', 'p95', 'longest'],
    [['replace an entry, judged and answered', ms(median(took)), ms(percentile(took, 0.95)), ms(Math.max(...took))]],
  );
}

/** How long `/health` and an edit take at most while work goes on. */
async function watched<T>(
  server: RunningServer,
  work: () => Promise<T>,
): Promise<{ value: T; health: number; edit: number; seconds: number }> {
  let going = true;
  let [health, edit] = [0, 0];
  const probe = (async () => {
    while (going) {
      const startedAt = performance.now();
      await server.get('health');
      health = Math.max(health, performance.now() - startedAt);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  })();
  const editor = (async () => {
    const date = addDays(localTimeOf(Date.now(), 'Europe/Dublin').date, 5);
    const where = `stations/${VALE}/logs/${date}`;
    const view = await server.get<LogView>(where);
    const [entry] = elementAt(view.log.hours, 12).entries.filter(({ kind }) => kind === 'pick');
    let { revision } = view;
    for (let n = 0; going; n++) {
      const startedAt = performance.now();
      const note = `n${n}`;
      ({ revision } = await server.send<LogView>('POST', `${where}/edits`, {
        revision,
        edit: { type: 'note', entryId: entry!.id, note },
      }));
      edit = Math.max(edit, performance.now() - startedAt);
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
  })();
  const startedAt = performance.now();
  try {
    const value = await work();
    return { value, health, edit, seconds: (performance.now() - startedAt) / 1000 };
  } finally {
    going = false;
    await Promise.all([probe, editor]);
  }
}

async function imports(server: RunningServer, rows: number): Promise<string> {
  const lines = Array.from(
    { length: rows },
    (_, n) =>
      `Made up ${rows} ${n},Maker ${n % (rows / 10)},Record ${n % (rows / 4)},3:${String(n % 60).padStart(2, '0')},1994`,
  );
  const text = ['title,artist,album,duration,year', ...lines].join('\n');
  const done = await watched(server, async () => {
    const session = await server.upload<ImportSession>(`stations/${VALE}/imports`, `rows-${rows}.csv`, text);
    return server.ended(await server.send<JobView>('POST', `imports/${session.id}/commit`));
  });
  const memory = server.peakMemoryMb();
  const undone = await watched(server, () => server.send('POST', `activity/${done.value.activityId}/undo`));
  if (rows <= 20_000) await server.send('POST', `activity/${(undone.value as { activityId: string }).activityId}/undo`);
  const row = (what: string, { health, edit, seconds }: typeof undone): string[] => [
    what,
    `${seconds.toFixed(1)} s`,
    ms(health),
    ms(edit),
  ];
  return table(
    `${rows.toLocaleString('en-GB')} rows imported (peak memory of the server so far ${memory} MB)`,
    ['', 'time', 'longest /health', 'longest edit'],
    [row('import', done as never), row('undo of it', undone as never)],
  );
}

async function whileBusy(server: RunningServer, today: string): Promise<string> {
  const generation = await watched(server, async () =>
    server.ended(
      await server.send<JobView>('POST', `stations/${VALE}/generate`, { from: addDays(today, 20), days: 3 }),
    ),
  );
  const rotation = await watched(server, () => server.get(`stations/${VALE}/rotation`));
  const row = (
    what: string,
    { health, edit, seconds }: { health: number; edit: number; seconds: number },
  ): string[] => [what, `${seconds.toFixed(1)} s`, ms(health), ms(edit)];
  return table(
    'While the server works',
    ['', 'time', 'longest /health', 'longest edit'],
    [row('three days generated', generation), row('rotation', rotation)],
  );
}

async function slowest(server: RunningServer, today: string): Promise<string> {
  const rows: string[][] = [];
  for (const [what, where] of [
    ['rotation', `stations/${VALE}/rotation`],
    ['log of today', `stations/${VALE}/logs/${today}`],
    ['catalogue', `stations/${VALE}/catalogue`],
    ['one word', `stations/${VALE}/items?limit=100&q=song`],
  ] as const) {
    const startedAt = performance.now();
    await server.get(where);
    const first = performance.now() - startedAt;
    const again = performance.now();
    await server.get(where);
    rows.push([what, ms(first), ms(performance.now() - again)]);
  }
  return table('Answers with a large library', ['', 'first', 'kept'], rows);
}

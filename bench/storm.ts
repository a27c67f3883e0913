import { cp, mkdtemp, readdir, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { elementAt, addDays, localTimeOf } from '@fuller/core';
import type { ActivityRow, ImportSession, ItemPage, JobView, LogView } from '@fuller/contracts';
import { startServer, type RunningServer } from './running-server.js';
import { table } from './table.js';

const VALE = 'osier-vale';
const KILLS = 60;
const REQUESTS = 3000;
const FILES = 500;
const SLOW_MS = 10_000;

/** Numbers from a seed, so that a storm can be had again (mulberry32). */
function randomFrom(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** Kills, hostile requests and broken files against the built program: nothing may fail unexpectedly, stall or be half there. */
export async function storm(demoDir: string, seed = 4600): Promise<string> {
  const folder = await mkdtemp(path.join(os.tmpdir(), 'fuller-storm-'));
  const dataDir = path.join(folder, 'data');
  await cp(demoDir, dataDir, { recursive: true });
  try {
    const random = randomFrom(seed);
    const server = await startServer(dataDir);
    const files = await mutated(server, random);
    await server.stop();
    const kills = await killed(dataDir, random);
    // Last, as what they may change is anything at all.
    const again = await startServer(dataDir);
    const requests = await fuzzed(again, random);
    await again.stop();
    return (
      table(
        `A storm (seed ${seed})`,
        ['what', 'how many', 'of 5xx', 'over 10 s', 'half things'],
        [
          ['kills while something is written', `${KILLS}`, '', '', kills.length ? kills.join('; ') : '0'],
          [
            'hostile requests over every route',
            `${requests.count}`,
            `${requests.failed.length}`,
            `${requests.slow.length}`,
            '',
          ],
          ['mutated files to import', `${files.count}`, `${files.failed.length}`, `${files.slow.length}`, ''],
        ],
      ) +
      [...requests.failed, ...files.failed, ...requests.slow, ...files.slow]
        .slice(0, 20)
        .map((one) => `- ${one}\n`)
        .join('')
    );
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

const today = (): string => localTimeOf(Date.now(), 'Europe/Dublin').date;

/** Begins something long, kills the server at some moment of it, starts it again and looks for anything half done. */
async function killed(dataDir: string, random: () => number): Promise<string[]> {
  const wrong: string[] = [];
  for (let n = 0; n < KILLS; n++) {
    const server = await startServer(dataDir);
    const before = await stateOf(server, dataDir);
    const kind = elementAt(['import', 'generate', 'edit', 'hand-over', 'undo'], n % 5);
    const begun = begin(server, kind, n).catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, 20 + random() * (kind === 'edit' ? 120 : 1500)));
    await server.kill();
    await begun;
    const again = await startServer(dataDir);
    const after = await stateOf(again, dataDir);
    const fault = halfDone(kind, before, after);
    if (fault) wrong.push(`${n} ${kind}: ${fault}`);
    if (n % 10 === 9) process.stderr.write(`${n + 1} of ${KILLS} kills, ${wrong.length} with something half done\n`);
    await again.stop();
  }
  return wrong;
}

interface State {
  readonly items: number;
  readonly activities: readonly ActivityRow[];
  readonly parts: readonly string[];
  readonly files: number;
  readonly recorded: number;
  readonly uploads: number;
}

async function stateOf(server: RunningServer, dataDir: string): Promise<State> {
  const items = await server.get<ItemPage>(`stations/${VALE}/items?limit=1`);
  const names = (await readdir(path.join(dataDir, 'hand-over'), { recursive: true })).filter((name) =>
    /\.(m3u8|fuller-part)/.test(name),
  );
  const records = await server.get<{ records: { files: string[] }[] }>(
    `stations/${VALE}/hand-over/${addDays(today(), 1)}`,
  );
  return {
    items: items.total,
    activities: await server.get<ActivityRow[]>('activity?limit=20'),
    parts: names.filter((name) => name.includes('fuller-part')),
    files: names.length,
    recorded: records.records.length,
    uploads: (await readdir(path.join(dataDir, 'uploads'))).length,
  };
}

const ROWS = 600;

async function begin(server: RunningServer, kind: string, n: number): Promise<unknown> {
  const where = `stations/${VALE}`;
  switch (kind) {
    case 'import': {
      const lines = Array.from({ length: ROWS }, (_, row) => `Storm ${n} ${row},Maker ${row % 90},3:10`);
      const session = await server.upload<ImportSession>(
        `${where}/imports`,
        'storm.csv',
        ['title,artist,duration', ...lines].join('\n'),
      );
      return server.send<JobView>('POST', `imports/${session.id}/commit`);
    }
    case 'generate':
      return server.send<JobView>('POST', `${where}/generate`, { from: addDays(today(), 9), days: 1, seed: n });
    case 'edit': {
      const date = addDays(today(), 2);
      const view = await server.get<LogView>(`${where}/logs/${date}`);
      const entry = elementAt(view.log.hours, 8).entries.find((one) => one.kind === 'pick')!;
      return server.send('POST', `${where}/logs/${date}/edits`, {
        revision: view.revision,
        edit: { type: 'note', entryId: entry.id, note: `storm ${n}` },
      });
    }
    case 'hand-over':
      return server.send('POST', `${where}/hand-over`, {
        date: addDays(today(), 1),
        pattern: `{date}_{hour}_${n}.m3u8`,
        hourly: true,
      });
    default: {
      const rows = await server.get<ActivityRow[]>('activity?limit=40');
      const last =
        rows.find((row) => row.label.startsWith('Import') && !row.undone) ?? rows.find((row) => !row.undone)!;
      return server.send('POST', `activity/${last.id}/undo`);
    }
  }
}

function halfDone(kind: string, before: State, after: State): string | null {
  if (after.parts.length > 0) return `${after.parts.length} parts of files left`;
  const more = after.items - before.items;
  if (more !== 0 && Math.abs(more) % ROWS !== 0) return `${more} items of ${ROWS}`;
  const said = after.activities.filter((row) => !before.activities.some(({ id }) => id === row.id));
  if (said.length > 1) return `${said.length} activities`;
  if (kind === 'import' && (more === 0) !== (said.length === 0)) return `${more} items and ${said.length} activities`;
  const files = after.files - before.files;
  if (kind === 'hand-over' && files !== 0 && (files < 23 || after.recorded !== before.recorded + 1))
    return `${files} files and ${after.recorded - before.recorded} records`;
  return null;
}

const HOSTILE: readonly unknown[] = [
  '',
  ' ',
  '\0',
  '../../etc/passwd',
  '__proto__',
  'constructor',
  'x'.repeat(5000),
  '💥',
  '2026-13-45',
  '9999-12-31',
  '0000-00-00',
  -1,
  0,
  1e308,
  1e999,
  0.5,
  null,
  true,
  [],
  {},
  [[[]]],
  { __proto__: { admin: true } },
  `length:${'9'.repeat(310)}`,
  "' or 1=1 --",
  'rested:1e9d',
];

interface Described {
  readonly paths: Readonly<
    Record<
      string,
      Readonly<
        Record<string, { readonly requestBody?: { readonly content?: Record<string, { readonly schema?: Shape }> } }>
      >
    >
  >;
}
interface Shape {
  readonly type?: string | readonly string[];
  readonly properties?: Readonly<Record<string, Shape>>;
  readonly items?: Shape;
  readonly enum?: readonly unknown[];
  readonly anyOf?: readonly Shape[];
  readonly oneOf?: readonly Shape[];
  readonly const?: unknown;
}

interface Outcome {
  readonly count: number;
  readonly failed: string[];
  readonly slow: string[];
}

/** Requests over every route of the API description, near what it asks for and far from it. */
async function fuzzed(server: RunningServer, random: () => number): Promise<Outcome> {
  const pick = <T>(list: readonly T[]): T => elementAt(list, Math.floor(random() * list.length));
  const document = (await server.get<Described>('openapi.json')).paths;
  const routes = Object.entries(document).flatMap(([where, methods]) =>
    Object.entries(methods).map(([method, about]) => ({ where, method, about })),
  );
  const ids = [VALE, 'osier-overnight', today(), addDays(today(), 1), 'nothing'];
  const valueOf = (shape: Shape | undefined, depth = 0): unknown => {
    if (!shape || random() < 0.15 || depth > 5) return pick(HOSTILE);
    if (shape.const !== undefined) return shape.const;
    if (shape.enum) return pick(shape.enum);
    const choices = shape.anyOf ?? shape.oneOf;
    if (choices) return valueOf(pick(choices), depth + 1);
    const type = Array.isArray(shape.type) ? pick(shape.type) : shape.type;
    if (type === 'object')
      return Object.fromEntries(
        Object.entries(shape.properties ?? {}).flatMap(([key, one]) =>
          random() < 0.1 ? [] : [[key, valueOf(one, depth + 1)]],
        ),
      );
    if (type === 'array')
      return Array.from({ length: Math.floor(random() * 4) }, () => valueOf(shape.items, depth + 1));
    if (type === 'number' || type === 'integer') return pick([0, 1, -1, 3600, 2 ** 53, 1e999, 0.1]);
    if (type === 'boolean') return random() < 0.5;
    return pick(['a', VALE, today(), 'gold', 'x'.repeat(300), ...HOSTILE.filter((one) => typeof one === 'string')]);
  };
  const failed: string[] = [];
  const slow: string[] = [];
  for (let n = 0; n < REQUESTS; n++) {
    const { where, method, about } = elementAt(routes, n % routes.length);
    if (where.endsWith('/events')) continue;
    const place = where
      .replace(/^\/api/, '')
      .replace(/\{(\w+)\}/g, (_, name: string) =>
        encodeURIComponent(
          String(
            name === 'stationId' && random() < 0.8
              ? VALE
              : name === 'date' && random() < 0.6
                ? addDays(today(), 1)
                : pick([...ids, ...HOSTILE.filter((one) => one !== '')]),
          ),
        ),
      );
    const query =
      random() < 0.4
        ? `?${pick(['q', 'offset', 'limit', 'sort', 'from', 'count', 'date', 'order'])}=${encodeURIComponent(String(pick(HOSTILE)))}`
        : '';
    const shape = Object.values(about.requestBody?.content ?? {})[0]?.schema;
    const body =
      method === 'get'
        ? undefined
        : random() < 0.05
          ? '{"broken":'
          : JSON.stringify(valueOf(shape)).replace(/null/g, random() < 0.2 ? '1e999' : 'null');
    const startedAt = performance.now();
    const answer = await fetch(`${server.url}/api${place}${query}`, {
      method: method.toUpperCase(),
      headers: { 'x-client': 'storm', 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body }),
      signal: AbortSignal.timeout(30_000),
    }).catch((error: unknown) => ({ status: 599, text: async () => String(error) }));
    const text = await answer.text();
    const took = performance.now() - startedAt;
    if (took > SLOW_MS) slow.push(`${method} ${place}: ${Math.round(took)} ms`);
    if (answer.status >= 500)
      failed.push(`${method} ${place}${query} ${body?.slice(0, 160) ?? ''}: ${answer.status} ${text.slice(0, 120)}`);
    if (/Invalid (?:key|type)|Expected \(|at Object\.|\.ts:\d+/.test(text) && answer.status >= 400)
      failed.push(`${method} ${place} speaks like a program: ${text.slice(0, 160)}`);
  }
  return { count: REQUESTS, failed, slow };
}

/** Files of every kind with bytes changed, cut, repeated and put in. */
async function mutated(server: RunningServer, random: () => number): Promise<Outcome> {
  const good = [
    'title,artist,duration\nA song,Somebody,3:38\nAnother,"Some, body",218\n',
    'title;artist;duration\nÄ;Ö;3:38\n',
    '#EXTM3U\n#EXTINF:218,Somebody - A song\na/b.mp3\n',
    '[playlist]\nFile1=a.mp3\nTitle1=Somebody - A\nLength1=218\nNumberOfEntries=1\n',
    '<?xml version="1.0"?><playlist version="1" xmlns="http://xspf.org/ns/0/"><trackList><track><location>a.mp3</location><title>A</title></track></trackList></playlist>',
    '[{"title":"A","artist":"B","durationMs":218000}]',
  ];
  const failed: string[] = [];
  const slow: string[] = [];
  for (let n = 0; n < FILES; n++) {
    const bytes = [...Buffer.from(elementAt(good, n % good.length))];
    for (let k = 0; k < 1 + random() * 12; k++) {
      const at = Math.floor(random() * bytes.length);
      const way = random();
      if (way < 0.3) bytes[at] = Math.floor(random() * 256);
      else if (way < 0.5) bytes.splice(at, Math.floor(random() * 20));
      else if (way < 0.7)
        bytes.splice(at, 0, ...Array.from({ length: Math.floor(random() * 40) }, () => Math.floor(random() * 256)));
      else bytes.splice(at, 0, ...Array.from({ length: Math.floor(random() * 3000) }, () => bytes[at] ?? 65));
    }
    const form = new FormData();
    form.set('file', new Blob([Uint8Array.from(bytes)]), `storm-${n}.txt`);
    const startedAt = performance.now();
    const answer = await fetch(`${server.url}/api/stations/${VALE}/imports`, {
      method: 'POST',
      headers: { 'x-client': 'storm' },
      body: form,
    });
    const read = (await answer.json()) as ImportSession & { message?: string };
    if (answer.status >= 500) failed.push(`file ${n}: ${answer.status} ${read.message}`);
    if (answer.ok) {
      const job = await server.send<JobView>('POST', `imports/${read.id}/dry-run`);
      await server.ended(job).catch((error: unknown) => {
        if (String(error).includes('unexpected')) failed.push(`file ${n}: ${String(error)}`);
      });
      await server.send('DELETE', `imports/${read.id}`);
    }
    const took = performance.now() - startedAt;
    if (took > SLOW_MS) slow.push(`file ${n}: ${Math.round(took)} ms`);
  }
  return { count: FILES, failed, slow };
}

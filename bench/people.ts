import { cp, mkdtemp, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import type { ItemPage, LogView, Station } from '@fuller/contracts';
import { addDays, elementAt, localTimeOf } from '@fuller/core';
import { Person } from './person.js';
import { startServer } from './running-server.js';
import { median, ms, percentile, table } from './table.js';

const PEOPLE = 50;
const STATIONS = 4;
const SECONDS = 60;
/** Between two things a person does, milliseconds. */
const THINKS_MS = [2000, 10_000] as const;
const WORDS = ['river', 'blue', 'morning', 'lantern', 'salt', 'year:1990..1999', 'mood:glad'];
const VALE = 'osier-vale';
const ABOUT =
  'Each has an account, a session and the log of a day open, and does something every two to ten seconds: a quarter edit ' +
  'their log, the others search, look through library, log and fortnight, or change a card; one generates a day meanwhile. ' +
  'They run on the same cores as the server.';

/** What a person asks, and how long each answer took, milliseconds. */
type Took = Map<string, number[]>;

/** Fifty people with accounts on four stations, each with a session of its own: a minute of mixed work. */
export async function people(demoDir: string): Promise<string> {
  const folder = await mkdtemp(path.join(os.tmpdir(), 'fuller-people-'));
  const dataDir = path.join(folder, 'data');
  await cp(demoDir, dataDir, { recursive: true });
  await rm(path.join(dataDir, 'owner.json'), { force: true });
  const server = await startServer(dataDir, []);
  try {
    const director = new Person(server.url, 'bench-director');
    await director.signInDemo('director');
    const date = addDays(localTimeOf(Date.now(), 'Europe/Dublin').date, 1);
    const stations = await fourStations(director, date);
    const all: Person[] = [];
    for (let n = 0; n < PEOPLE; n++) all.push(await Person.withAccount(director, server.url, n));
    const took: Took = new Map();
    const notes: { stationId: string; note: string }[] = [];
    const until = performance.now() + SECONDS * 1000;
    await Promise.all(
      all.map(async (person, n) => {
        const stationId = elementAt(stations, n % stations.length);
        const { revision, log } = await person.ask<LogView>('GET', `stations/${stationId}/logs/${date}`);
        const entries = log.hours.flatMap((hour) =>
          hour.entries.filter(({ kind }) => kind === 'pick').map(({ id }) => id),
        );
        await person.follow(stationId, date, revision);
        for (let k = 0; performance.now() < until; k++) {
          await pause(THINKS_MS[0] + ((n * 7919 + k * 104_729) % (THINKS_MS[1] - THINKS_MS[0])));
          await act({ person, stationId, date, n, k, took, notes, entries });
        }
      }),
    );
    for (const person of all) person.leave();
    const measured = table(
      `${PEOPLE} people on ${STATIONS} stations for a minute`,
      ['what', 'answers', 'median', '95 of 100', '99 of 100', 'most'],
      [
        ...[...took].map(([what, times]) => row(what, times)),
        row('all', [...took.values()].flat()),
        ['edits answered', `${notes.length}`, '', '', '', ''],
        ['of them lost', `${await lost(director, date, notes)}`, '', '', '', ''],
        ['largest resident set', `${server.peakMemoryMb()} MB`, '', '', '', ''],
      ],
    );
    return `${measured}\n${ABOUT}\n`;
  } finally {
    await server.stop();
    await rm(folder, { recursive: true, force: true });
  }
}

function row(what: string, times: readonly number[]): string[] {
  return [
    what,
    `${times.length}`,
    ms(median(times)),
    ms(percentile(times, 0.95)),
    ms(percentile(times, 0.99)),
    ms(Math.max(...times)),
  ];
}

/** The two stations of the demo and two made like the first, all with a log of the day. */
async function fourStations(director: Person, date: string): Promise<string[]> {
  for (let n = 1; n <= STATIONS - 2; n++)
    await director.ask('POST', 'stations', {
      name: `Station ${n}`,
      timeZone: 'Europe/Dublin',
      copyOf: { stationId: VALE, parts: 'everything' },
    });
  const stations = await director.ask<Station[]>('GET', 'stations');
  for (const { id } of stations) await director.job(`stations/${id}/generate`, { from: date, days: 1, seed: 7 });
  return stations.map(({ id }) => id);
}

interface Act {
  readonly person: Person;
  readonly stationId: string;
  readonly date: string;
  readonly n: number;
  readonly k: number;
  readonly took: Took;
  readonly notes: { stationId: string; note: string }[];
  /** Ids of the picks of the log that is open. */
  readonly entries: readonly string[];
}

/** One thing a person does: most look, a quarter edits a log, one in fifty generates meanwhile. */
async function act({ person, stationId, date, n, k, took, notes, entries }: Act): Promise<void> {
  const timed = async <T>(what: string, work: () => Promise<T>): Promise<T> => {
    const startedAt = performance.now();
    const value = await work();
    const list = took.get(what);
    if (list) list.push(performance.now() - startedAt);
    else took.set(what, [performance.now() - startedAt]);
    return value;
  };
  const at = `stations/${stationId}`;
  const draw = (n * 31 + k * 17) % 100;
  if (n === 0 && k % 25 === 10) {
    const from = addDays(date, 3);
    await timed('begin a run', () => person.ask('POST', `${at}/generate`, { from, days: 1, seed: k }));
  } else if (draw < 25) {
    await edit();
  } else if (draw < 45) {
    await timed('search the library', () =>
      person.ask<ItemPage>('GET', `${at}/items?q=${encodeURIComponent(elementAt(WORDS, k % WORDS.length))}&limit=60`),
    );
  } else if (draw < 60) {
    await timed('a page of the library', () =>
      person.ask('GET', `${at}/items?offset=${(k % 20) * 60}&limit=60&sort=title`),
    );
  } else if (draw < 75) {
    await timed('a log', () => person.ask('GET', `${at}/logs/${date}`));
  } else if (draw < 85) {
    await timed('what a station shares', () => person.ask('GET', `${at}/catalogue`));
  } else if (draw < 93) {
    await timed('a fortnight', () => person.ask('GET', `${at}/days?from=${date}&count=14`));
  } else {
    const { rows } = await person.ask<ItemPage>('GET', `${at}/items?offset=${(n * 7) % 900}&limit=1`);
    const where = `${at}/items/${elementAt(rows, 0).id}`;
    const { revision } = await timed('a card', () => person.ask<{ revision: number }>('GET', where));
    const change = { revision, notes: `seen by ${n} at ${k}` };
    await timed('change a card', () => person.ask('PATCH', where, change, [409]));
  }

  /** Writes a note at an entry of the log that is open; where somebody was faster, waits to be told of it, as the desk does. */
  async function edit(): Promise<void> {
    const note = `person ${n}, act ${k}`;
    const entryId = elementAt(entries, (n * 37 + k * 11) % entries.length);
    for (;;) {
      const asked = { revision: person.revisionOf(stationId, date), edit: { type: 'note', entryId, note } };
      const status = await timed('edit a log', () => person.statusOf('POST', `${at}/logs/${date}/edits`, asked));
      if (status === 200) break;
      if (status !== 409) throw new Error(`an edit was answered with ${status}`);
      await pause(30);
    }
    notes.push({ stationId, note });
  }
}

/** How many of the edits that were answered are in no activity of their station. */
async function lost(
  director: Person,
  date: string,
  notes: readonly { readonly stationId: string; readonly note: string }[],
): Promise<number> {
  let missing = 0;
  for (const stationId of new Set(notes.map((one) => one.stationId))) {
    const { revision } = await director.ask<LogView>('GET', `stations/${stationId}/logs/${date}`);
    const own = notes.filter((one) => one.stationId === stationId);
    // Each edit that was answered made one revision of its log; none may have written over another.
    missing += Math.max(0, own.length - (revision - 1));
  }
  return missing;
}

function pause(milliseconds: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, milliseconds));
}

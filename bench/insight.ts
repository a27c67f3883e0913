import { cp, mkdtemp, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { addDays, elementAt, REPORT_KINDS, REPORT_NAMES } from '@fuller/core';
import { openServices, PlayEntity, type Services } from '@fuller/server';
import { VALE } from '@fuller/demo';
import { startServer } from './running-server.js';
import { median, ms, table } from './table.js';

const DAY_MS = 86_400_000;
/** The thirteen weeks of the demo, so many times one before the other. */
const TIMES = 4;
const WEEKS_DAYS = 91;
const ASKED = 7;

/** Every report over a year of aired plays, asked of a server: the first time, and again after something has changed. */
export async function insight(demoDir: string): Promise<string> {
  const folder = await mkdtemp(path.join(os.tmpdir(), 'fuller-insight-'));
  const dataDir = path.join(folder, 'data');
  await cp(demoDir, dataDir, { recursive: true });
  await rm(path.join(dataDir, 'owner.json'), { force: true });
  const services = await openServices({ dataDir });
  const plays = await addYear(services);
  const began = performance.now();
  await services.figuresKeeper.catchUp();
  const perDay = (performance.now() - began) / (WEEKS_DAYS * (TIMES - 1));
  await services.close();
  const server = await startServer(dataDir, ['--no-accounts']);
  try {
    const rows: string[][] = [];
    for (const kind of REPORT_KINDS) {
      const took: number[] = [];
      for (let n = 0; n < ASKED; n++) {
        // Another range each time, so that no kept answer is measured.
        const to = addDays(new Date().toISOString().slice(0, 10), -1 - n);
        const at = performance.now();
        const answer = await fetch(
          `${server.url}/api/stations/${VALE}/reports/${kind}?from=${addDays(to, -364)}&to=${to}`,
          { headers: { connection: 'close' } },
        );
        await answer.json();
        if (!answer.ok) throw new Error(`${kind} answered ${answer.status}`);
        took.push(performance.now() - at);
      }
      rows.push([REPORT_NAMES[kind], ms(elementAt(took, 0)), ms(median(took)), ms(Math.max(...took.slice(1)))]);
    }
    return `${table(`Reports over a year of ${plays} plays`, ['report', 'first', 'median', 'most after the first'], rows)}\nA day’s figures are worked out in ${ms(perDay)}, behind what changes it.\n`;
  } finally {
    await server.stop();
    await rm(folder, { recursive: true });
  }
}

/** Plays the history of the demo again before itself; returns how many plays the year has. */
async function addYear({ store }: Services): Promise<number> {
  const known = (await store.read.find(PlayEntity, { stationId: VALE, logId: null })) as unknown as {
    itemId: string;
    startMs: number;
    date: string;
  }[];
  await store.writeUnrecorded(async (em) => {
    for (let back = 1; back < TIMES; back++) {
      const days = back * WEEKS_DAYS;
      const rows = known.map(({ itemId, startMs, date }) => ({
        stationId: VALE,
        itemId,
        startMs: startMs - days * DAY_MS,
        date: addDays(date, -days),
        logId: null,
      }));
      for (let from = 0; from < rows.length; from += 1000)
        await em.insertMany(PlayEntity, rows.slice(from, from + 1000) as never[]);
    }
  });
  return known.length * TIMES;
}

import { mkdtemp, rm } from 'node:fs/promises';
import os from 'node:os';
import path from 'node:path';
import { HOUR_MS, nameKey, NO_FRAMING, type ClockLine } from '@fuller/core';
import type { Express } from 'express';
import { pino } from 'pino';
import supertest from 'supertest';
import { createApp } from '../app.js';
import { CategoryGroupEntity, StationEntity, StationGroupEntity, WeekPlanEntity } from '../db/entities/index.js';
import { inlineCompute } from '../jobs/compute.js';
import { addCredits } from '../library/credits.js';
import { newItemRow } from '../library/item-row.js';
import { openServices, type Services } from '../services.js';

/** Noon in Dublin on a Monday. */
export const NOW = Date.UTC(2026, 10, 23, 12);
export const TODAY = '2026-11-23';
export const TOMORROW = '2026-11-24';
export const SONGS = 60;

export interface TestServer {
  readonly app: Express;
  readonly api: ReturnType<typeof supertest>;
  readonly services: Services;
  readonly dataDir: string;
  close(): Promise<void>;
}

/** A server on a data folder of its own with two stations; the first has songs, categories, a clock and rules. */
export async function testServer(seed: (services: Services) => Promise<void> = seedStations): Promise<TestServer> {
  const dataDir = await mkdtemp(path.join(os.tmpdir(), 'fuller-test-'));
  const services = await openServices({ dataDir, now: () => NOW, compute: inlineCompute, retryWaitMs: 5 });
  await seed(services);
  const app = createApp(services, {
    log: pino({ level: process.env['FULLER_TEST_LOG'] ?? 'silent' }),
    webDir: null,
    checkAnswers: true,
  });
  return {
    app,
    api: supertest.agent(app).set('x-client', 'test') as unknown as ReturnType<typeof supertest>,
    services,
    dataDir,
    async close() {
      await services.close();
      await rm(dataDir, { recursive: true, force: true });
    },
  };
}

export async function seedStations({ store }: Services): Promise<void> {
  await store.write({ clientId: 'seed', stationId: null, label: 'Seed' }, async (changes) => {
    const { em } = changes;
    await em.insert(StationGroupEntity, { id: 'g', name: 'Group' });
    for (const [position, id] of ['vale', 'night'].entries()) {
      await em.insert(StationEntity, {
        id,
        groupId: 'g',
        name: `Radio ${id}`,
        frequency: '',
        timeZone: 'Europe/Dublin',
        position,
      });
      await em.insert(WeekPlanEntity, {
        id,
        revision: 1,
        blocks: [],
        defaultClockId: null,
        framing: NO_FRAMING,
      });
    }
    await em.insert(CategoryGroupEntity, { id: 'music', name: 'Music', position: 0 });
    const category = {
      revision: 1,
      scope: 'station',
      stationId: 'vale',
      groupId: 'music',
      colour: '#1F6FA8',
      music: true,
    };
    await changes.insert('category', [
      { ...category, id: 'gold', name: 'Gold', nameKey: 'gold', code: 'G', codeKey: 'g', position: 1 },
      { ...category, id: 'fresh', name: 'Fresh', nameKey: 'fresh', code: 'F', codeKey: 'f', position: 2 },
    ]);
    const lines = Array.from({ length: 15 }, (_, index): ClockLine => ({
      id: `p${index}`,
      kind: 'pick',
      categoryId: 'gold',
      comment: '',
    }));
    await changes.insert('clock', [
      {
        id: 'day',
        revision: 1,
        scope: 'station',
        stationId: 'vale',
        name: 'Day',
        nameKey: nameKey('Day'),
        colour: '#D1862B',
        lengthMs: HOUR_MS,
        lines,
        position: 1,
      },
    ]);
    await em.nativeUpdate(WeekPlanEntity, { id: 'vale' }, { defaultClockId: 'day' });
    await changes.insert('rule', [
      {
        id: 'artist',
        revision: 1,
        scope: 'station',
        stationId: 'vale',
        shape: 'apart',
        tag: 'artist',
        amount: 1800,
        resting: false,
        position: 1,
      },
    ]);
    const items = Array.from({ length: SONGS }, (_, index) => ({
      ...newItemRow({
        kind: 'song',
        title: `Réalta ${index}`,
        artist: `Artist ${index % 20}`,
        album: `Album ${index % 25}`,
        year: 1980 + (index % 40),
        durationMs: 200_000 + index * 1000,
        cart: `C${index}`,
        file: index < 10 ? `song${index}.wav` : null,
      }),
      id: `song${index}`,
    }));
    await changes.insert('item', items);
    await addCredits(
      changes,
      items.map((item, index) => ({ itemId: item.id, artist: `Artist ${index % 20}` })),
    );
    await changes.insert(
      'placement',
      items.slice(0, SONGS - 5).map((item) => ({ id: `place-${item.id}`, itemId: item.id, categoryId: 'gold' })),
    );
  });
}

/** Waits for a job to end and answers it. */
export async function endOfJob(
  server: TestServer,
  id: string,
): Promise<{ state: string; message: string; activityId: string | null; result: unknown }> {
  for (;;) {
    const job = server.services.jobs.list().find((one) => one.id === id)!;
    if (job.state !== 'running') return job as never;
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
}

import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from '@jest/globals';
import type { JobView } from '@fuller/contracts';
import { JobRunner } from './job-runner.js';
import { startStandIn } from './stand-ins.js';

const folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-standin-'));
afterAll(() => rmSync(folder, { recursive: true }));

const script = (name: string, text: string): string => {
  const file = path.join(folder, name);
  writeFileSync(file, text);
  return file;
};
const soon = async (holds: () => boolean): Promise<void> => {
  for (let tries = 0; tries < 2000 && !holds(); tries++) await new Promise((resolve) => setTimeout(resolve, 25));
  expect(holds()).toBe(true);
};

describe('a stand-in', () => {
  const file = path.join(folder, 'jobs.json');
  const jobs = new JobRunner(
    () => {},
    () => {},
    file,
  );
  const about = { label: 'Stand-in', stationId: 'vale', args: ['hello'] };
  const now = ({ id }: JobView): JobView => jobs.list().find((one) => one.id === id)!;

  it('runs until it is stopped, and is told as stopped', async () => {
    const started = startStandIn(jobs, {
      ...about,
      script: script('waits.mjs', 'console.log(process.argv[2]); setInterval(() => {}, 1000)'),
    });
    await soon(() => now(started).doing === 'hello');
    jobs.cancel(started.id);
    await soon(() => now(started).state !== 'running');
    expect(now(started)).toMatchObject({ state: 'done', message: 'Stopped.' });
  });

  it('that dies comes back; one that dies again and again says what it said last, and none is remembered over a restart', async () => {
    const started = startStandIn(jobs, {
      ...about,
      againAfterMs: 5,
      script: script('falls.mjs', 'console.error("The port is taken"); process.exit(7)'),
    });
    await soon(() => now(started).state !== 'running');
    expect(now(started).message).toBe('Ended by itself (7): The port is taken');
    expect(
      new JobRunner(
        () => {},
        () => {},
        file,
      ).recover(),
    ).toEqual([]);
  });
});

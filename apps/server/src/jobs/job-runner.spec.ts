import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { Announcement, JobView } from '@fuller/contracts';
import { FullerError } from '../errors.js';
import { JobRunner, type JobOutcome, type RunningJob } from './job-runner.js';

const ABOUT = { kind: 'import' as const, label: 'Import songs.csv', stationId: 'vale', clientId: 'me' };
const DONE: JobOutcome = { activityId: 'a1', message: '3 new.', result: null };

describe('a job', () => {
  let folder = '';
  let told: JobView[] = [];
  let faults: unknown[] = [];
  let jobs: JobRunner;
  const file = () => path.join(folder, 'jobs.json');
  const runner = () =>
    new JobRunner(
      (event: Announcement) => void (event.type === 'job' && told.push(event.job)),
      (error) => faults.push(error),
      file(),
    );
  const ended = async (id: string): Promise<JobView> => {
    for (let tries = 0; tries < 2000; tries++) {
      const view = jobs.list().find((one) => one.id === id)!;
      if (view.state !== 'running') return view;
      await new Promise((resolve) => setTimeout(resolve, 2));
    }
    throw new Error('the job did not end');
  };
  const untilStopped = (job: RunningJob) =>
    new Promise<JobOutcome>((_, reject) => {
      if (job.signal.aborted) reject(job.signal.reason);
      job.signal.addEventListener('abort', () => reject(job.signal.reason));
    });

  beforeEach(() => {
    folder = mkdtempSync(path.join(os.tmpdir(), 'fuller-jobs-'));
    told = [];
    faults = [];
    jobs = runner();
  });
  afterEach(async () => {
    await jobs.close();
    rmSync(folder, { recursive: true });
  });

  it('is told from its start to its end, with how far it is', async () => {
    const { id } = jobs.start(ABOUT, async (job) => {
      job.progress(0.5, 'Reading');
      job.progress(7, 'Writing');
      return DONE;
    });
    expect(await ended(id)).toMatchObject({
      state: 'done',
      progress: 1,
      doing: '',
      message: '3 new.',
      activityId: 'a1',
    });
    expect(told.map(({ state, progress, doing }) => [state, progress, doing])).toEqual([
      ['running', 0, 'Starting'],
      ['running', 0.5, 'Reading'],
      ['running', 1, 'Writing'],
      ['done', 1, ''],
    ]);
  });

  it('that fails says why where that is known, and reports what is not', async () => {
    const known = jobs.start(ABOUT, () => Promise.reject(new FullerError('INVALID', 'Choose the title’s column.')));
    expect(await ended(known.id)).toMatchObject({ state: 'failed', message: 'Choose the title’s column.' });
    expect(faults).toEqual([]);
    const unknown = jobs.start(ABOUT, () => Promise.reject(new TypeError('x is undefined')));
    expect((await ended(unknown.id)).message).toBe('Something unexpected went wrong; nothing was written.');
    expect(faults).toEqual([expect.any(TypeError)]);
  });

  it('is cancelled, which is no failure', async () => {
    const { id } = jobs.start(ABOUT, untilStopped);
    jobs.cancel(id);
    expect(await ended(id)).toMatchObject({ state: 'cancelled', message: 'Cancelled; nothing was written.' });
    expect(faults).toEqual([]);
    expect(() => jobs.cancel('ghost')).toThrow('There is no job “ghost”.');
  });

  it('is waited for when the server stops', async () => {
    let cleaned = false;
    jobs.start(ABOUT, (job) => untilStopped(job).finally(() => (cleaned = true)));
    await new Promise((resolve) => setTimeout(resolve, 5));
    await jobs.close();
    expect(cleaned).toBe(true);
  });

  it('that was going on when the server was killed has failed after the next start, and is told', async () => {
    const { id } = jobs.start(ABOUT, untilStopped);
    const left = readFileSync(file(), 'utf8');
    await jobs.close();
    writeFileSync(file(), left);
    jobs = runner();
    expect(jobs.recover()).toEqual(['“Import songs.csv” was going on when Fuller stopped; nothing of it is kept.']);
    expect(jobs.list()).toMatchObject([{ id, state: 'failed' }]);
    jobs = runner();
    expect(jobs.recover()).toEqual([]);
  });

  it('is forgotten when its file cannot be read, and when thirty others have ended since', async () => {
    writeFileSync(file(), '{broken');
    jobs = runner();
    expect([jobs.recover(), jobs.list()]).toEqual([[], []]);
    for (let n = 0; n < 33; n++) await ended(jobs.start({ ...ABOUT, label: `Job ${n}` }, async () => DONE).id);
    jobs.start(ABOUT, async () => DONE);
    expect(jobs.list().map(({ label }) => label)).not.toContain('Job 0');
    expect(jobs.list().length).toBeLessThanOrEqual(32);
    expect(existsSync(`${file()}.part`)).toBe(false);
  });
});

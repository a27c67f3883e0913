import { spawn } from 'node:child_process';
import { setTimeout } from 'node:timers/promises';
import type { JobView } from '@fuller/contracts';
import type { JobRunner, RunningJob } from './job-runner.js';

/** A small program that stands in for a device or a service of the outside world. */
export interface StandIn {
  readonly label: string;
  readonly stationId: string;
  /** A script for Node, and what it is started with. */
  readonly script: string;
  readonly args: readonly string[];
  /** One that dies is started again after this, ms. */
  readonly againAfterMs?: number;
}

/** How long it usually takes until one that died is started again, ms; one that dies at once so often is given up. */
const AGAIN_AFTER_MS = 1500;
const MOST_QUICK_DEATHS = 5;
const QUICK_MS = 10_000;

/**
 * Runs a stand-in as a process of its own, told among the jobs and stopped from there; it ends with this process. One that
 * dies comes back.
 */
export function startStandIn(jobs: JobRunner, standIn: StandIn): JobView {
  const { label, stationId } = standIn;
  return jobs.start({ kind: 'stand-in', label, stationId, clientId: 'stand-in' }, async (job) => {
    let quickDeaths = 0;
    for (;;) {
      const startedMs = Date.now();
      const { code, said } = await runOnce(standIn, job);
      if (job.signal.aborted) return { activityId: null, message: 'Stopped.', result: null };
      quickDeaths = Date.now() - startedMs < QUICK_MS ? quickDeaths + 1 : 0;
      if (quickDeaths >= MOST_QUICK_DEATHS)
        return { activityId: null, message: `Ended by itself${code === 0 ? '' : ` (${code})`}: ${said}`, result: null };
      job.progress(0, 'It ended by itself and is started again.');
      await setTimeout(standIn.againAfterMs ?? AGAIN_AFTER_MS, undefined, { signal: job.signal }).catch(() => {});
      if (job.signal.aborted) return { activityId: null, message: 'Stopped.', result: null };
    }
  });
}

/** A stand-in stays small: it collects its garbage often. */
const SMALL = ['--max-semi-space-size=1', '--max-old-space-size=96'];

function runOnce({ script, args }: StandIn, job: RunningJob): Promise<{ code: number | null; said: string }> {
  const child = spawn(process.execPath, [...SMALL, script, ...args], { stdio: ['pipe', 'pipe', 'pipe'] });
  let said = '';
  const listen = (text: Buffer): void => {
    said = text.toString().trim().split('\n').at(-1) ?? '';
    job.progress(0, said);
  };
  child.stdout.on('data', listen);
  child.stderr.on('data', listen);
  const stop = (): void => void child.kill();
  job.signal.addEventListener('abort', stop, { once: true });
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('close', (code) => {
      job.signal.removeEventListener('abort', stop);
      resolve({ code, said });
    });
  });
}

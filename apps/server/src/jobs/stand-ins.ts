import { spawn } from 'node:child_process';
import type { JobView } from '@fuller/contracts';
import type { JobRunner } from './job-runner.js';

/** A small program that stands in for a device or a service of the outside world. */
export interface StandIn {
  readonly label: string;
  readonly stationId: string;
  /** A script for Node, and what it is started with. */
  readonly script: string;
  readonly args: readonly string[];
}

/** Runs a stand-in as a process of its own, told among the jobs and stopped from there; it ends with this process. */
export function startStandIn(jobs: JobRunner, { label, stationId, script, args }: StandIn): JobView {
  return jobs.start({ kind: 'stand-in', label, stationId, clientId: 'stand-in' }, (job) => {
    const child = spawn(process.execPath, [script, ...args], { stdio: ['pipe', 'pipe', 'pipe'] });
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
        const message = job.signal.aborted ? 'Stopped.' : `Ended by itself${code === 0 ? '' : ` (${code})`}: ${said}`;
        resolve({ activityId: null, message, result: null });
      });
    });
  });
}

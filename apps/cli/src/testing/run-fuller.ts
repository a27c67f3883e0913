import { spawnSync } from 'node:child_process';

/** Runs the built command line program to its end. */
export function fuller(...args: string[]): {
  code: number | null;
  out: string;
  err: string;
  json<T = Record<string, unknown>>(): T;
} {
  const done = spawnSync(process.execPath, ['bin/fuller', ...args], { encoding: 'utf8' });
  return { code: done.status, out: done.stdout, err: done.stderr, json: () => JSON.parse(done.stdout) as never };
}

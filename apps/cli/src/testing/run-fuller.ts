import { spawnSync } from 'node:child_process';

interface Ended {
  code: number | null;
  out: string;
  err: string;
  json<T = Record<string, unknown>>(): T;
}

/** Runs the built command line program to its end. */
export function fuller(...args: string[]): Ended {
  return fullerGiven('', ...args);
}

/** The same with a text on standard input. */
export function fullerGiven(input: string, ...args: string[]): Ended {
  const done = spawnSync(process.execPath, ['bin/fuller', ...args], {
    encoding: 'utf8',
    input,
    // Named, since a test that sets a variable has an environment of its own.
    env: process.env,
  });
  return { code: done.status, out: done.stdout, err: done.stderr, json: () => JSON.parse(done.stdout) as never };
}

import { spawnSync } from 'node:child_process';
import * as v from 'valibot';
import { ANSWERS, type AnswerName } from '../answers.js';

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
  const { status: code, stdout: out, stderr: err } = done;
  return { code, out, err, json: () => asPublished(args, JSON.parse(out)) as never };
}

/** An answer that is as its published schema says; throws for any other. */
function asPublished(args: readonly string[], answer: unknown): unknown {
  const [first = '', second = ''] = args;
  const name = first === 'import' ? `${first} ${second}` : first;
  const isError = typeof answer === 'object' && answer !== null && 'error' in answer;
  const result = v.safeParse(ANSWERS[(isError ? 'error' : name) as AnswerName], answer);
  if (!result.success)
    throw new Error(
      `${name} --json is not as published: ${v.getDotPath(result.issues[0])} ${result.issues[0].message}`,
    );
  return answer;
}

import { FullerError } from '@fuller/server';
import { CommanderError } from 'commander';

export const EXIT = { done: 0, unexpected: 1, badInput: 2, openSlots: 3, checkFailed: 4 } as const;

/** Bad input that has no other error: names what and where. */
export class UsageError extends Error {}

/** Says what went wrong, as JSON when asked for, and sets the exit code. */
export function failWith(error: unknown, json: boolean): void {
  if (error instanceof CommanderError) {
    process.exitCode = error.exitCode === 0 ? EXIT.done : EXIT.badInput;
    if (json && error.exitCode !== 0) printJson({ error: { code: 'USAGE', message: error.message } });
    return;
  }
  const known = error instanceof FullerError || error instanceof UsageError || error instanceof RangeError;
  const message = error instanceof Error ? error.message : String(error);
  const bad = known && !(error instanceof FullerError && error.code === 'UNEXPECTED');
  process.exitCode = bad ? EXIT.badInput : EXIT.unexpected;
  if (json)
    printJson({ error: { code: error instanceof FullerError ? error.code : bad ? 'INVALID' : 'UNEXPECTED', message } });
  else process.stderr.write(`fuller: ${message}\n`);
}

export function printJson(value: unknown): void {
  process.stdout.write(`${JSON.stringify(value)}\n`);
}

import type { FullerError } from '@fuller/server';
import { CommanderError } from 'commander';
import { printJson, UsageError } from './output.js';

export const EXIT = { done: 0, unexpected: 1, badInput: 2, openSlots: 3, checkFailed: 4, needsPerson: 5 } as const;

/** Says what went wrong, as JSON when asked for, and sets the exit code. */
export function failWith(error: unknown, json: boolean): void {
  if (error instanceof CommanderError) {
    process.exitCode = error.exitCode === 0 ? EXIT.done : EXIT.badInput;
    if (json && error.exitCode !== 0) printJson({ error: { code: 'USAGE', message: error.message } });
    return;
  }
  const known = isOurs(error) || error instanceof UsageError || error instanceof RangeError;
  // The database tells whole statements; a person needs the beginning.
  const message = (error instanceof Error ? error.message : String(error)).slice(0, 500);
  const bad = known && !(isOurs(error) && error.code === 'UNEXPECTED');
  process.exitCode = bad ? EXIT.badInput : EXIT.unexpected;
  if (json) printJson({ error: { code: isOurs(error) ? error.code : bad ? 'INVALID' : 'UNEXPECTED', message } });
  else process.stderr.write(`fuller: ${message}\n`);
}

/** By name, so that the server is not loaded for commands that do without it. */
function isOurs(error: unknown): error is FullerError {
  return error instanceof Error && error.name === 'FullerError';
}

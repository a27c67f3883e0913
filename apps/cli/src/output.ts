import { readFile } from 'node:fs/promises';
import type { Answer } from './answers.js';

/** Bad input that has no other error: names what and where. */
export class UsageError extends Error {}

/** Prints what a command answers with `--json`. */
export function printJson(value: Answer): void {
  process.stdout.write(`${JSON.stringify(value)}\n`);
}

/** The value in a JSON file; throws UsageError where there is none. */
export async function readJson(file: string): Promise<unknown> {
  const text = await readFile(file, 'utf8').catch(() => {
    throw new UsageError(`there is no file ${file}`);
  });
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new UsageError(`${file}: ${error instanceof Error ? error.message : 'is not JSON'}`);
  }
}

import { readFile } from 'node:fs/promises';
/** Bad input that has no other error: names what and where. */
export class UsageError extends Error {}

export function printJson(value: unknown): void {
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

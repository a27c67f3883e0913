/** Bad input that has no other error: names what and where. */
export class UsageError extends Error {}

export function printJson(value: unknown): void {
  process.stdout.write(`${JSON.stringify(value)}\n`);
}

/** Ends this process when the one that started it is gone, however it ended. */
export function endWithParent(): void {
  process.stdin.resume();
  process.stdin.on('end', () => process.exit(0));
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0));
}

/** `1 song`, `2 songs`; numbers carry thin thousands. */
export function plural(count: number, one: string, many = `${one}s`): string {
  return `${count.toLocaleString('en-GB')} ${count === 1 ? one : many}`;
}

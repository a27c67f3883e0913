/** An id for a new row of a set list. */
export function newRowId(): string {
  return crypto.randomUUID().replaceAll('-', '').slice(0, 12);
}

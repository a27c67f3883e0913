const WITH_DATE = /^(\d{4}-\d{2}-\d{2})\/(.+)$/;

/** Names an entry, or a spot, among those of all days: ids are the same every day. */
export function entryOfDate(date: string, id: string): string {
  return `${date}/${id}`;
}

/** The date and the id in such a name; null for any other text. */
export function readEntryOfDate(name: string): { readonly date: string; readonly id: string } | null {
  const [, date, id] = WITH_DATE.exec(name) ?? [];
  return date === undefined || id === undefined ? null : { date, id };
}

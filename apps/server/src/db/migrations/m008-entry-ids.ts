import { Migration } from '@mikro-orm/migrations';

/**
 * Entries of logs go by their line and the minute of the day its clock began at (`p0-300`), no longer by the hour they
 * stand in (`5-p0`). Logs and what was recorded of them are renamed, so that locks, notes and undo keep.
 */
export class EntryIds extends Migration {
  override async up(): Promise<void> {
    const logs = (await this.execute(`select "id", "hours" from "daily_log"`)) as { id: string; hours: string }[];
    for (const { id, hours } of logs) {
      const renamed = read(hours);
      if (renamed !== undefined)
        await this.execute(`update "daily_log" set "hours" = ? where "id" = ?`, [JSON.stringify(asNow(renamed)), id]);
    }
    const recorded = (await this.execute(
      `select "id", "before", "after" from "activity_change" where "thing" = 'log'`,
    )) as { id: number; before: string | null; after: string | null }[];
    for (const { id, before, after } of recorded) {
      const turned = [before, after].map((text) => {
        const value = text === null ? undefined : read(text);
        return value === undefined ? text : JSON.stringify(asNow(value));
      });
      await this.execute(`update "activity_change" set "before" = ?, "after" = ? where "id" = ?`, [...turned, id]);
    }
  }
}

const OLD_ID = /^(\d{1,2})-([A-Za-z0-9_-]{1,40})$/;

/** Undefined for a document that is broken; the check at the start sets it aside. */
function read(text: unknown): unknown {
  if (typeof text !== 'string') return text;
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** A stored log or log edit with the ids of now; slots that were opened by a replacement are edits of their own. */
function asNow(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(asNow);
  if (typeof value !== 'object' || value === null) return value;
  const row = Object.fromEntries(
    Object.entries(value).map(([key, one]) => [
      key,
      (key === 'id' || key === 'entryId') && typeof one === 'string' ? renamed(one) : asNow(one),
    ]),
  );
  if (row['type'] !== 'replace') return row;
  const { open, ...rest } = row;
  if (row['itemId'] !== null) return rest;
  const { itemId, ...opened } = rest;
  void itemId;
  return { ...opened, type: 'open', reason: open ?? null };
}

function renamed(id: string): string {
  const parts = OLD_ID.exec(id);
  return parts ? `${parts[2]!}-${Number(parts[1]) * 60}` : id;
}

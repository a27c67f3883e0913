import { elementAt } from '@fuller/core';
import { Migration } from '@mikro-orm/migrations';

/**
 * Entries of logs go by their line and the minute of the day its clock began at (`p0-300`), no longer by the hour they
 * stand in (`5-p0`). Logs and what was recorded of them are renamed, so that locks, notes and undo keep.
 */
export class EntryIds extends Migration {
  override async up(): Promise<void> {
    // One row at a time: years of logs would not fit into memory at once.
    for (const { id } of (await this.execute(`select "id" from "daily_log"`)) as { id: string }[]) {
      const [row] = (await this.execute(`select "hours" from "daily_log" where "id" = ?`, [id])) as { hours: string }[];
      const hours = read(row!.hours);
      if (hours !== undefined)
        await this.execute(`update "daily_log" set "hours" = ? where "id" = ?`, [JSON.stringify(asNow(hours)), id]);
    }
    const changes = await this.execute(`select "id" from "activity_change" where "thing" = 'log'`);
    for (const { id } of changes as { id: number }[]) {
      const [row] = (await this.execute(`select "before", "after" from "activity_change" where "id" = ?`, [id])) as {
        before: string | null;
        after: string | null;
      }[];
      const turned = [row!.before, row!.after].map((text) => {
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
  return parts ? `${elementAt(parts, 2)}-${Number(parts[1]) * 60}` : id;
}

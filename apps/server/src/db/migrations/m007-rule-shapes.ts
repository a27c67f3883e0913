import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `alter table "rule" add column "value" text null`,
  `alter table "rule" add column "followed_by" text null`,
  `alter table "rule" add column "amount" integer not null default 0`,
  `alter table "rule" add column "window_seconds" integer null`,
  `alter table "rule" add column "exceptions" json not null default '[]'`,
  `alter table "rule" add column "strength" text not null default 'hard'`,
  `alter table "rule" add column "rank" integer not null default 0`,
  `alter table "rule" add column "note" text not null default ''`,
  `alter table "rule" add column "places" json not null default '[]'`,
  `update "rule" set "amount" = "seconds"`,
];

/** Rules of every shape, with strength, rank, places, and amounts by place. */
export class RuleShapes extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
    const rules = (await this.execute(`select "id", "seconds_by_category" as "own" from "rule"`)) as {
      id: string;
      own: string;
    }[];
    for (const { id, own } of rules) {
      await this.execute(`update "rule" set "exceptions" = ? where "id" = ?`, [JSON.stringify(exceptionsOf(own)), id]);
    }
    await this.execute(`alter table "rule" drop column "seconds"`);
    await this.execute(`alter table "rule" drop column "seconds_by_category"`);
    // What was recorded of rules can still be undone.
    const recorded = (await this.execute(
      `select "id", "before", "after" from "activity_change" where "thing" = 'rule'`,
    )) as { id: number; before: string | null; after: string | null }[];
    for (const { id, before, after } of recorded) {
      const turned = [before, after].map((text) => (text === null ? null : JSON.stringify(asNow(JSON.parse(text)))));
      await this.execute(`update "activity_change" set "before" = ?, "after" = ? where "id" = ?`, [...turned, id]);
    }
  }
}

interface Exception {
  readonly kind: 'category';
  readonly id: string;
  readonly amount: number;
}

/** A document that cannot be read asks nothing of single categories. */
function exceptionsOf(secondsByCategory: unknown): Exception[] {
  let own: unknown = secondsByCategory;
  try {
    if (typeof own === 'string') own = JSON.parse(own);
  } catch {
    return [];
  }
  if (typeof own !== 'object' || own === null) return [];
  return Object.entries(own).flatMap(([id, amount]) =>
    typeof amount === 'number' ? [{ kind: 'category' as const, id, amount }] : [],
  );
}

/** A recorded row, whole or in part, with the columns of now. */
function asNow(row: unknown): unknown {
  if (typeof row !== 'object' || row === null) return row;
  const { seconds, secondsByCategory, ...rest } = row as Record<string, unknown>;
  const whole =
    'shape' in rest && 'tag' in rest && 'id' in rest
      ? { value: null, followedBy: null, windowSeconds: null, strength: 'hard', rank: 0, note: '', places: [] }
      : {};
  return {
    ...whole,
    ...rest,
    ...(seconds === undefined ? {} : { amount: seconds }),
    ...(secondsByCategory === undefined ? {} : { exceptions: exceptionsOf(secondsByCategory) }),
  };
}

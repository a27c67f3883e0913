import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `alter table "category" add column "life" json null`,
  `alter table "placement" add column "since" text null`,
  `alter table "placement" add column "planned" json null`,
  `create index "placement_planned" on "placement" ("category_id") where "planned" is not null`,
  `alter table "station" add column "moves_by_itself" integer not null default 0`,
  `alter table "station" add column "moved_on" text null`,
];

/** How long songs stay in a category, since when they are there, and what is planned for one. */
export class Life extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
  }
}

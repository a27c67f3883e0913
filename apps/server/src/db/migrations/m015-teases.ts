import { Migration } from '@mikro-orm/migrations';

const STATEMENTS = [
  `alter table "item" add column "announces" json null`,
  `create index "item_of_kind" on "item" ("kind")`,
];

/** What teases are tied to. */
export class Teases extends Migration {
  override async up(): Promise<void> {
    for (const statement of STATEMENTS) await this.execute(statement);
  }
}

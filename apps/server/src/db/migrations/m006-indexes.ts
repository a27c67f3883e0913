import { Migration } from '@mikro-orm/migrations';

/** What a client did last, and the dates of a station, are found without going through all of them. */
export class Indexes extends Migration {
  override async up(): Promise<void> {
    this.addSql('create index "activity_client" on "activity" ("client_id", "at_ms")');
    this.addSql('create index "date_plan_station" on "date_plan" ("station_id")');
  }
}

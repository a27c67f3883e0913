import { Migration } from '@mikro-orm/migrations';

/** Plays are read by their station's date. */
export class PlaysByDate extends Migration {
  override up(): void {
    this.addSql('create index "play_date" on "play" ("station_id", "date")');
  }
}

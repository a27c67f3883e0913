import { Migration } from '@mikro-orm/migrations';
import { EXTRAS } from '../dialect/postgres/extras.js';
import { portable } from '../schema/portable.js';
import { TABLES } from '../schema/tables.js';

/** Every table, for a database of PostgreSQL that is new. */
export class Beginning extends Migration {
  override async up(): Promise<void> {
    for (const statement of TABLES) await this.execute(portable(statement, 'postgres'));
    for (const statement of EXTRAS) await this.execute(statement);
  }
}

import { PostgreSqlPlatform } from '@mikro-orm/postgresql';
import type { Em } from '../orm.js';
import { POSTGRES } from './postgres/fragments.js';
import type { Dialect } from './shape.js';
import { SQLITE } from './sqlite/fragments.js';

export type { Condition, Dialect } from './shape.js';

/** How the database that an entity manager works on writes what is not the same for all. */
export function dialectOf(em: Em): Dialect {
  return isPostgres(em) ? POSTGRES : SQLITE;
}

export function isPostgres(em: Em): boolean {
  return em.getPlatform() instanceof PostgreSqlPlatform;
}

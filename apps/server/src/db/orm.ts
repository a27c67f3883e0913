import type { MikroORM } from '@mikro-orm/core';
import type { AbstractSqlDriver, SqlEntityManager } from '@mikro-orm/knex';
import * as entities from './entities/index.js';

export const ENTITIES = Object.values(entities);
export const MIGRATION_OPTIONS = { snapshot: false, silent: true, tableName: 'migration' } as const;

export type Orm = MikroORM<AbstractSqlDriver>;
export type Em = SqlEntityManager;

import { EXCHANGE } from './exchange.js';
import { LIBRARY } from './library.js';
import { LOGS } from './logs.js';
import { PEOPLE } from './people.js';
import { SCHEDULING } from './scheduling.js';
import { STATIONS } from './stations.js';

/**
 * Every table and index as the migrations up to m021 leave them, in portable words; see `portable`. PostgreSQL begins with
 * these; SQLite has come to them step by step, and a test holds the two against each other. Tables come after those they refer to.
 */
export const TABLES: readonly string[] = [...STATIONS, ...LIBRARY, ...SCHEDULING, ...LOGS, ...EXCHANGE, ...PEOPLE];

import { describe, it } from '@jest/globals';

/** Whether the tests run on a database of PostgreSQL; see FULLER_DATABASE. */
export const IS_SHARED = (process.env['FULLER_DATABASE'] ?? '') !== '';

/** Tests of what only a file in a data folder has: its journal, copies of it, and what older versions left in one. */
export const describeOfFile = IS_SHARED ? describe.skip : describe;
export const itOfFile = IS_SHARED ? it.skip : it;
/** Tests of what only a database that several servers share has. */
export const describeShared = IS_SHARED ? describe : describe.skip;

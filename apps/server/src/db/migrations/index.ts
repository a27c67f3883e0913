import { Beginning } from './m021-postgres.js';
import { Foundation } from './m001-foundation.js';
import { Filters } from './m002-filters.js';
import { LibraryDepth } from './m003-library.js';
import { AirPlanTables } from './m004-air-plan.js';
import { PlaysByDate } from './m005-kept-plays.js';
import { Indexes } from './m006-indexes.js';
import { EntryIds } from './m008-entry-ids.js';
import { RuleShapes } from './m007-rule-shapes.js';
import { TypedSettings } from './m009-typed-settings.js';
import { DaypartsLimits } from './m010-dayparts-limits.js';
import { LogVersions } from './m011-log-versions.js';
import { OnAir } from './m013-on-air.js';
import { Rolling } from './m014-rolling.js';
import { Teases } from './m015-teases.js';
import { Sponsors } from './m016-sponsors.js';
import { SetLists } from './m017-set-lists.js';
import { People } from './m018-people.js';
import { Group } from './m019-group.js';
import { Insight } from './m020-insight.js';
import { Life } from './m021-life.js';
import { OutputsTraffic } from './m012-outputs-traffic.js';

/** What SQLite has come through, the oldest first. */
const SQLITE = [
  { name: 'm001-foundation', class: Foundation },
  { name: 'm002-filters', class: Filters },
  { name: 'm003-library', class: LibraryDepth },
  { name: 'm004-air-plan', class: AirPlanTables },
  { name: 'm005-kept-plays', class: PlaysByDate },
  { name: 'm006-indexes', class: Indexes },
  { name: 'm007-rule-shapes', class: RuleShapes },
  { name: 'm008-entry-ids', class: EntryIds },
  { name: 'm009-typed-settings', class: TypedSettings },
  { name: 'm010-dayparts-limits', class: DaypartsLimits },
  { name: 'm011-log-versions', class: LogVersions },
  { name: 'm012-outputs-traffic', class: OutputsTraffic },
  { name: 'm013-on-air', class: OnAir },
  { name: 'm014-rolling', class: Rolling },
  { name: 'm015-teases', class: Teases },
  { name: 'm016-sponsors', class: Sponsors },
  { name: 'm017-set-lists', class: SetLists },
  { name: 'm018-people', class: People },
  { name: 'm019-group', class: Group },
  { name: 'm020-insight', class: Insight },
  { name: 'm021-life', class: Life },
];

/** What both databases go through from then on; see `portable`. */
const SINCE: typeof SQLITE = [];

/** Every migration of a database, the oldest first. PostgreSQL begins with what the first of SQLite had made. */
export const MIGRATIONS = {
  sqlite: [...SQLITE, ...SINCE],
  postgres: [{ name: 'm021-postgres', class: Beginning }, ...SINCE],
} as const;

import { visibleSql } from './visible-sql.js';
const SCHEDULED = `
  select i.id, i.kind, i.title, i.artist, i.album, i.duration_ms as durationMs, i.segue_ms as segueMs, i.start_date as startDate, i.end_date as endDate,
    i.hours, i.paused_until as pausedUntil, i.approved_at_ms is not null as approved, i.weight, i.tags,
    (select group_concat(artist_id) from (select artist_id from credit where item_id = i.id order by position)) as artists,
    (select group_concat(artist_id) from (select artist_id from credit where item_id = i.id and role = 'main' order by position)) as mainArtists
  from item i where ${visibleSql('i')}`;

/**
 * Items of a station that stand in a category or have been played, with what generation looks at; artist ids are joined
 * by commas, main artist first. The station's id is given twice.
 */
export const SCHEDULED_ITEMS = `${SCHEDULED}
  and i.id in (select item_id from placement union select item_id from play where station_id = ?) order by i.id`;

/** The same of items with some ids, a JSON array. */
export const SCHEDULED_ITEMS_WITH_IDS = `${SCHEDULED} and i.id in (select value from json_each(?)) order by i.id`;

export const PLACEMENTS = `
  select p.category_id as categoryId, p.item_id as itemId from placement p join category c on c.id = p.category_id
  where ${visibleSql('c')} order by p.category_id, p.rowid`;

export const PLAYS_BETWEEN = `
  select item_id as itemId, start_ms as startMs from play
  where station_id = ? and start_ms >= ? and start_ms < ? order by start_ms, item_id`;

/** Of a station, two dates, both included. */
export const PLAYS_OF_DATES = `
  select "date", item_id as itemId, start_ms as startMs from play
  where station_id = ? and "date" between ? and ? order by start_ms, item_id`;

/** What a log shows of items with some ids, a JSON array. */
export const LOG_ITEMS = `
  select id, title, artist, kind, duration_ms as durationMs, intro_ms as introMs, segue_ms as segueMs,
    file is not null as hasFile, json_extract(tags, '$.tempo[0]') as tempo
  from item where id in (select value from json_each(?))`;

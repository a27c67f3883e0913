import { ITEM_KINDS, TURN_ORDERS, type StationData } from '@fuller/core';
import * as v from 'valibot';
import { DatePlanRow, FramingSchema, ShowRow, Week } from './air-plan.js';
import { Id } from './basics.js';
import { ClockRow } from './clocks.js';
import { AnnouncedThing } from './library.js';
import { DailyLogSchema, LogItem } from './logs.js';
import { DaypartRow, RuleRow } from './rules.js';
import { SponsorPromiseSchema } from './sponsors.js';

const text = v.nullable(v.string());
const ids = v.array(Id);

const ScheduledItem = v.object({
  id: Id,
  kind: v.optional(v.picklist(ITEM_KINDS)),
  title: v.string(),
  artist: v.string(),
  album: v.string(),
  artistIds: v.array(v.string()),
  mainArtistIds: v.optional(v.array(v.string())),
  durationMs: v.number(),
  segueMs: v.nullable(v.number()),
  introMs: v.optional(v.nullable(v.number())),
  announces: v.optional(v.nullable(AnnouncedThing)),
  year: v.optional(v.nullable(v.number())),
  startDate: text,
  endDate: text,
  hours: text,
  pausedUntil: text,
  approved: v.boolean(),
  tags: v.optional(v.record(v.string(), v.array(v.string()))),
  weight: v.number(),
});

const { revision: _revision, position: _position, scope: _scope, ...ruleFields } = RuleRow.entries;

const StationDataSchema = v.object({
  timeZone: v.string(),
  plan: v.object({
    week: v.pick(Week, ['blocks', 'defaultClockId']),
    dates: v.array(v.omit(DatePlanRow, ['revision'])),
    shows: v.array(v.omit(ShowRow, ['revision'])),
    framing: FramingSchema,
    clocks: v.array(v.pick(ClockRow, ['id', 'name', 'colour', 'lengthMs', 'lines'])),
  }),
  items: v.array(ScheduledItem),
  categories: v.record(Id, ids),
  musicCategories: ids,
  approvedOnly: ids,
  spreadHours: v.boolean(),
  coolOffs: v.record(Id, v.object({ plays: v.number(), days: v.number(), rest: v.number() })),
  orders: v.record(Id, v.picklist(TURN_ORDERS)),
  filters: v.record(v.string(), ids),
  rules: v.array(v.object(ruleFields)),
  dayparts: v.array(v.omit(DaypartRow, ['revision'])),
  exemptAlbums: v.array(v.string()),
  sponsors: v.optional(
    v.object({
      sponsors: v.array(
        v.object({
          id: Id,
          name: v.string(),
          product: v.string(),
          startDate: text,
          endDate: text,
          promises: v.array(SponsorPromiseSchema),
        }),
      ),
      rivalsApartMs: v.number(),
      mostPerHour: v.nullable(v.number()),
    }),
  ),
  sisterPlays: v.optional(v.array(v.object({ stationId: Id, itemId: Id, startMs: v.number() }))),
  themes: v.optional(v.array(v.object({ by: v.string(), value: v.string(), startMs: v.number() }))),
  history: v.array(v.object({ itemId: Id, startMs: v.number() })),
  nextLog: v.nullable(DailyLogSchema),
});

/** What the browser needs to judge a day's log by itself; the data is what generation works from. */
export const DeskData = v.object({ data: StationDataSchema, items: v.array(LogItem) });
export interface DeskData {
  readonly data: StationData;
  readonly items: readonly LogItem[];
}

/** What rules are held against while they are typed: the station's days and plays, its items with every tag. */
export const RulesGround = v.object({ data: StationDataSchema });
export interface RulesGround {
  readonly data: StationData;
}

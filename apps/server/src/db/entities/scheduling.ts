import type {
  ClockLine,
  CoolOff,
  Framing,
  Life,
  PlanBlock,
  RuleException,
  RulePlace,
  RuleShape,
  RuleStrength,
  Scope,
  Show,
  TurnOrder,
} from '@fuller/core';
import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

export const CategoryGroupEntity = defineEntity({
  name: 'CategoryGroup',
  tableName: 'category_group',
  properties: { id: p.string().primary(), name: p.string(), position: p.integer() },
});

export const CategoryEntity = defineEntity({
  name: 'Category',
  tableName: 'category',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    scope: p.string().$type<Scope>(),
    stationId: p.string().nullable(),
    groupId: p.string().nullable(),
    name: p.string(),
    nameKey: p.string(),
    code: p.string(),
    codeKey: p.string(),
    colour: p.string(),
    music: p.boolean(),
    turnOrder: p.string().$type<TurnOrder>(),
    coolOff: p.json<CoolOff | null>().nullable(),
    /** How long songs stay, and where they go then. */
    life: p.json<Life | null>().nullable(),
    /** Takes approved items only. */
    approvedOnly: p.boolean(),
    position: p.integer(),
  },
});
export type CategoryRecord = InferEntity<typeof CategoryEntity>;

export const ClockEntity = defineEntity({
  name: 'Clock',
  tableName: 'clock',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    scope: p.string().$type<Scope>(),
    stationId: p.string().nullable(),
    name: p.string(),
    nameKey: p.string(),
    colour: p.string(),
    lengthMs: p.integer(),
    lines: p.json<ClockLine[]>(),
    position: p.integer(),
  },
});
export type ClockRecord = InferEntity<typeof ClockEntity>;

export const WeekPlanEntity = defineEntity({
  name: 'WeekPlan',
  tableName: 'week_plan',
  properties: {
    /** The station's id: a station has one week plan. */
    id: p.string().primary(),
    revision: p.integer(),
    blocks: p.json<PlanBlock[]>(),
    defaultClockId: p.string().nullable(),
    framing: p.json<Framing>(),
  },
});
export type WeekPlanRecord = InferEntity<typeof WeekPlanEntity>;

export const ShowEntity = defineEntity({
  name: 'Show',
  tableName: 'show',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    stationId: p.string(),
    name: p.string(),
    nameKey: p.string(),
    colour: p.string(),
    clockIds: p.json<string[]>(),
    minutes: p.integer(),
    start: p.string().$type<Show['start']>(),
    end: p.string().$type<Show['end']>(),
    toleranceMs: p.integer(),
    after: p.string().$type<Show['after']>(),
    presenter: p.string(),
    announcementId: p.string().nullable(),
    openerId: p.string().nullable(),
    closerId: p.string().nullable(),
    hourOpenerId: p.string().nullable(),
    position: p.integer(),
  },
});
export type ShowRecord = InferEntity<typeof ShowEntity>;

export const DatePlanEntity = defineEntity({
  name: 'DatePlan',
  tableName: 'date_plan',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    stationId: p.string(),
    name: p.string(),
    start: p.string(),
    repeat: p.string(),
    likeDay: p.integer().nullable(),
    instead: p.boolean(),
    blocks: p.json<PlanBlock[]>(),
    position: p.integer(),
  },
});
export type DatePlanRecord = InferEntity<typeof DatePlanEntity>;

export const RuleEntity = defineEntity({
  name: 'Rule',
  tableName: 'rule',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    scope: p.string().$type<Scope>(),
    stationId: p.string().nullable(),
    shape: p.string().$type<RuleShape>(),
    tag: p.string(),
    value: p.string().nullable(),
    followedBy: p.string().nullable(),
    amount: p.integer(),
    windowSeconds: p.integer().nullable(),
    exceptions: p.json<RuleException[]>(),
    strength: p.string().$type<RuleStrength>(),
    rank: p.integer(),
    resting: p.boolean(),
    note: p.string(),
    places: p.json<RulePlace[]>(),
    /** Stations at which a shared rule does not apply, because they have their own in its place. */
    notAt: p.json<string[]>().default('[]'),
    /** Of a rule across stations: the stations it is about; all others where there are none. */
    stationIds: p.json<string[]>().default('[]'),
    position: p.integer(),
  },
});
export type RuleRecord = InferEntity<typeof RuleEntity>;

/** What a category of a station is to come to one day; its id is made of both ids. */
export const RotationPlanEntity = defineEntity({
  name: 'RotationPlan',
  tableName: 'rotation_plan',
  properties: {
    id: p.string().primary(),
    stationId: p.string(),
    categoryId: p.string(),
    items: p.integer(),
    slotsPerWeek: p.integer(),
  },
});

export const DaypartEntity = defineEntity({
  name: 'Daypart',
  tableName: 'daypart',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    stationId: p.string(),
    name: p.string(),
    nameKey: p.string(),
    /** 168 marks, Monday 00:00 first. */
    hours: p.string(),
    position: p.integer(),
  },
});
export type DaypartRecord = InferEntity<typeof DaypartEntity>;

/** Whether the statutory limits apply on a station, and how; its id is the station's. */
export const LimitPackEntity = defineEntity({
  name: 'LimitPack',
  tableName: 'limit_pack',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    applies: p.boolean(),
    strict: p.boolean(),
    exemptAlbums: p.json<string[]>(),
  },
});
export type LimitPackRecord = InferEntity<typeof LimitPackEntity>;

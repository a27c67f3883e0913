import { MISSING_REASONS, PROMISED_PER, PROOFS, TURN_ORDERS } from '@fuller/core';
import * as v from 'valibot';
import { EntryThemeSchema, lineFlags } from './clocks.js';
import { Change, AirDate, Id, LongText, Revision, ShortText, WholeMs } from './basics.js';

const HeldItems = v.array(v.object({ ruleId: Id, items: v.number() }));
const OpenReason = v.object({
  because: v.optional(v.literal('sponsors')),
  proof: v.picklist(PROOFS),
  heldBackBy: HeldItems,
  relax: v.optional(v.array(v.object({ ruleId: Id, seconds: v.number() }))),
});
const ChosenWhy = v.object({
  restMs: v.nullable(v.number()),
  ahead: v.number(),
  heldBack: HeldItems,
  promise: v.optional(v.object({ count: v.number(), per: v.picklist(PROMISED_PER), placed: v.number() })),
});
export const EntryId = v.pipe(v.string(), v.regex(/^[A-Za-z0-9_-]{1,80}$/, 'is not an entry of a log'));
const Mark = v.object({
  atMs: v.number(),
  hard: v.boolean(),
  exactMs: v.optional(v.number()),
  late: v.optional(v.literal(true)),
});
const yes = v.optional(v.literal(true));
const entryBase = {
  id: EntryId,
  note: LongText,
  noteBy: v.optional(v.literal('hand')),
  from: v.optional(v.picklist(['opener', 'closer', 'moment'])),
  mark: v.optional(Mark),
  placed: v.optional(v.literal('hand')),
  out: yes,
  listPlace: v.optional(v.object({ listId: Id, rowId: Id, goesOn: yes })),
  ...lineFlags,
};
/** A commercial in a break. */
export const Spot = v.strictObject({
  id: EntryId,
  cart: ShortText,
  sponsor: ShortText,
  title: ShortText,
  product: ShortText,
  lengthMs: WholeMs,
});
/** A length in place of an item's own. */
const lengthMs = v.optional(WholeMs);
/** What a tease or a sweeper plays, and by which entry. */
const binding = {
  itemId: v.nullable(Id),
  boundTo: v.nullable(EntryId),
  intoMs: v.optional(v.number()),
  missing: v.optional(v.picklist(MISSING_REASONS)),
};
const EntryTarget = v.variant('to', [
  v.strictObject({ to: v.literal('pick'), categoryId: Id }),
  v.strictObject({ to: v.literal('entry'), entryId: EntryId }),
  v.strictObject({ to: v.literal('time'), atMs: v.number() }),
  v.strictObject({ to: v.literal('show'), showId: v.string() }),
]);
const filters = v.optional(v.array(v.string()));
export const LogEntrySchema = v.variant('kind', [
  v.object({
    ...entryBase,
    kind: v.literal('pick'),
    categoryId: Id,
    turnOrder: v.optional(v.picklist(TURN_ORDERS)),
    filters,
    theme: v.optional(EntryThemeSchema),
    rules: v.optional(v.literal('off')),
    spare: yes,
    fill: yes,
    itemId: v.nullable(Id),
    locked: v.boolean(),
    origin: v.picklist(['engine', 'hand']),
    open: v.nullable(OpenReason),
    why: v.optional(v.nullable(ChosenWhy)),
    runMs: v.optional(v.number()),
    lengthMs,
  }),
  v.object({ ...entryBase, kind: v.literal('item'), itemId: Id, spare: yes, lengthMs }),
  v.object({
    ...entryBase,
    kind: v.literal('break'),
    bookedAtMs: v.number(),
    durationMs: v.number(),
    spots: v.optional(v.array(Spot)),
  }),
  v.object({ ...entryBase, ...binding, kind: v.literal('tease'), target: EntryTarget }),
  v.object({ ...entryBase, ...binding, kind: v.literal('sweeper'), categoryId: Id, filters }),
  v.object({ ...entryBase, kind: v.literal('note'), text: ShortText }),
]);
export const LogHourSchema = v.object({
  index: v.number(),
  localHour: v.number(),
  startMs: v.number(),
  durationMs: v.number(),
  clockId: v.nullable(Id),
  clockName: v.string(),
  showId: v.optional(Id),
  runsOn: yes,
  /** Ids of entries that were removed by hand. */
  removed: v.optional(v.array(EntryId)),
  entries: v.array(LogEntrySchema),
});
export const DailyLogSchema = v.object({ date: v.string(), timeZone: v.string(), hours: v.array(LogHourSchema) });

const LogPlace = v.strictObject({
  hourIndex: v.pipe(v.number(), v.integer(), v.minValue(0)),
  /** Before another entry of the hour, or with null at its end. */
  beforeId: v.nullable(EntryId),
});
const newEntry = {
  id: EntryId,
  note: v.optional(LongText, ''),
  noteBy: v.optional(v.literal('hand')),
  placed: v.optional(v.literal('hand')),
};
/** What a person can put into a log: an item, a slot of a category, a break, a note. */
export const NewEntry = v.variant('kind', [
  v.strictObject({
    ...newEntry,
    kind: v.literal('pick'),
    categoryId: Id,
    filters: v.optional(v.pipe(v.array(v.pipe(v.string(), v.maxLength(1000))), v.maxLength(10))),
    itemId: v.nullable(Id),
    locked: v.optional(v.literal(false), false),
    origin: v.optional(v.literal('hand'), 'hand'),
    open: v.optional(v.null(), null),
    lengthMs,
  }),
  v.strictObject({ ...newEntry, kind: v.literal('item'), itemId: Id, lengthMs }),
  v.strictObject({ ...newEntry, kind: v.literal('break'), bookedAtMs: v.number(), durationMs: WholeMs }),
  v.strictObject({
    ...newEntry,
    kind: v.literal('tease'),
    target: EntryTarget,
    itemId: v.null(),
    boundTo: v.null(),
  }),
  v.strictObject({
    ...newEntry,
    kind: v.literal('sweeper'),
    categoryId: Id,
    filters: v.optional(v.pipe(v.array(v.pipe(v.string(), v.maxLength(1000))), v.maxLength(10))),
    itemId: v.null(),
    boundTo: v.null(),
  }),
  v.strictObject({ ...newEntry, kind: v.literal('note'), text: ShortText }),
]);
const singleEdits = [
  v.strictObject({ type: v.literal('replace'), entryId: EntryId, itemId: Id }),
  v.strictObject({ type: v.literal('open'), entryId: EntryId }),
  v.strictObject({ type: v.literal('swap'), entryId: EntryId, withId: EntryId }),
  v.strictObject({ type: v.literal('insert'), at: LogPlace, entry: NewEntry }),
  v.strictObject({ type: v.literal('remove'), entryId: EntryId }),
  v.strictObject({ type: v.literal('move'), entryId: EntryId, to: LogPlace }),
  v.strictObject({ type: v.literal('length'), entryId: EntryId, durationMs: v.nullable(WholeMs) }),
  v.strictObject({ type: v.literal('lock'), entryId: EntryId, locked: v.boolean() }),
  v.strictObject({ type: v.literal('note'), entryId: EntryId, note: LongText }),
  v.strictObject({
    type: v.literal('spots'),
    entryId: EntryId,
    spots: v.nullable(v.pipe(v.array(Spot), v.maxLength(200, 'is more than 200'))),
  }),
] as const;
/** The edits a person makes by hand; new runs are jobs. A batch is carried out whole or not at all. */
export const HandEdit = v.variant('type', [
  ...singleEdits,
  v.strictObject({
    type: v.literal('batch'),
    edits: v.pipe(v.array(v.variant('type', [...singleEdits])), v.minLength(1), v.maxLength(500, 'is more than 500')),
  }),
]);
export type HandEdit = v.InferOutput<typeof HandEdit>;
/** Where a person is in a log. */
export const PresenceRequest = v.strictObject({ date: v.nullable(AirDate), entryId: v.nullable(EntryId) });
export const LogEditRequest = v.strictObject({ revision: Revision, edit: HandEdit });

export const Strain = v.object({ ruleId: Id, entryId: v.string(), by: v.number() });
export const LogItem = v.object({
  id: Id,
  title: v.string(),
  artist: v.string(),
  album: v.string(),
  kind: v.string(),
  durationMs: v.number(),
  introMs: v.nullable(v.number()),
  segueMs: v.nullable(v.number()),
  /** Values by tag family. */
  tags: v.record(v.string(), v.array(v.string())),
  hasFile: v.boolean(),
});
export type LogItem = v.InferOutput<typeof LogItem>;
/** What a run was to fill: the whole day, its open slots, some hours, the slots of some categories. */
export const RUN_SCOPES = ['all', 'open', 'hours', 'categories'] as const;
/** What a person decided at one stop of an attended run. */
export const RunDecision = v.object({
  atMs: v.number(),
  entryId: EntryId,
  /** When the slot aired then, on the station's clock. */
  airTime: v.string(),
  /** Null where the slot was skipped. */
  title: v.nullable(v.string()),
  /** What the choice broke, in words. */
  breaks: v.array(v.string()),
});
export type RunDecision = v.InferOutput<typeof RunDecision>;
/** What a run over a day was asked for. */
export const LogRun = v.object({
  atMs: v.number(),
  seed: v.number(),
  only: v.picklist(RUN_SCOPES),
  hours: v.nullable(v.array(v.number())),
  /** Names of the categories asked for, as they were then; null for all. */
  categories: v.nullable(v.array(v.string())),
  replacedByHand: v.boolean(),
  /** What was decided in an attended run; null where the run was straight. */
  decisions: v.nullable(v.array(RunDecision)),
  /** Sentences of the rules that were off, as they were then. */
  rulesOff: v.array(v.string()),
  answers: v.record(v.string(), v.string()),
  undone: v.boolean(),
});
export type LogRun = v.InferOutput<typeof LogRun>;
export const LogView = v.object({
  revision: Revision,
  log: DailyLogSchema,
  items: v.array(LogItem),
  strains: v.array(Strain),
});
export type LogView = v.InferOutput<typeof LogView>;
/** What an edit answers: the change, and the log as it is now. */
export const LogEdited = v.object({ ...Change.entries, ...LogView.entries });

export const DAY_STATES = ['none', 'open', 'complete', 'handed over', 'aired'] as const;
export type DayState = (typeof DAY_STATES)[number];
export const DaySummary = v.object({
  date: v.string(),
  state: v.picklist(DAY_STATES),
  slots: v.number(),
  open: v.number(),
  strains: v.number(),
});
export type DaySummary = v.InferOutput<typeof DaySummary>;

export const GenerateRequest = v.strictObject({
  from: AirDate,
  days: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(31, 'is more than 31')), 1),
  seed: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(4_294_967_295)), 1),
  only: v.optional(v.picklist(['all', 'open']), 'all'),
  /** Only these hours of one day, by their place in it. */
  hours: v.optional(v.array(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(24, 'is not an hour of a day')))),
  /** Only slots of these categories are chosen again, in the hours named where there are any. */
  categories: v.optional(v.pipe(v.array(Id), v.minLength(1, 'is empty'), v.maxLength(100))),
  /** Other stations whose days are generated in the same run. */
  stations: v.optional(v.pipe(v.array(Id), v.maxLength(50)), []),
  /** Whether the run is only to show what it would change; it is written when it is accepted. */
  preview: v.optional(v.boolean(), false),
  /** Whether what a person chose or noted may be replaced too; what is locked never is. */
  replaceByHand: v.optional(v.boolean(), false),
  /** Ids of rules that do not apply in this run. */
  rulesOff: v.optional(v.pipe(v.array(Id), v.maxLength(500)), []),
  /** Separations that ask less in this run: seconds by rule. */
  relax: v.optional(
    v.pipe(
      v.array(v.strictObject({ ruleId: Id, seconds: v.pipe(v.number(), v.integer(), v.minValue(0)) })),
      v.maxLength(50),
    ),
    [],
  ),
  /** What is answered to the questions of clock lines: filters by question. */
  answers: v.optional(v.record(v.string(), v.pipe(v.string(), v.trim(), v.maxLength(1000)))),
});
export const GeneratedDaySummary = v.object({
  /** Left out where the run was over one station. */
  stationId: v.optional(Id),
  date: v.string(),
  slots: v.number(),
  filled: v.number(),
  open: v.array(
    v.object({
      start: v.string(),
      line: v.string(),
      heldBackBy: v.array(v.object({ rule: v.string(), items: v.number() })),
      proof: v.string(),
    }),
  ),
  soft: v.array(v.object({ rule: v.string(), breaks: v.number() })),
  hours: v.array(v.object({ hour: v.number(), overSeconds: v.number() })),
  ms: v.number(),
});
export type GeneratedDaySummary = v.InferOutput<typeof GeneratedDaySummary>;

export const JobView = v.object({
  id: Id,
  kind: v.picklist(['generate', 'dry run', 'import', 'hand-over', 'stand-in', 'forecast']),
  label: v.string(),
  stationId: Id,
  /** The tab or program that started it. */
  clientId: v.string(),
  state: v.picklist(['running', 'done', 'failed', 'cancelled']),
  /** 0 to 1. */
  progress: v.number(),
  doing: v.string(),
  message: v.nullable(v.string()),
  /** What undoes what the job wrote; null when it wrote nothing. */
  activityId: v.nullable(Id),
  /** Of a generation its days; of an import or a forecast which one it is; null while it runs or when it failed. */
  result: v.nullable(
    v.union([
      v.object({
        days: v.array(GeneratedDaySummary),
        /** True where nothing is written until it is accepted. */
        preview: v.optional(v.boolean()),
      }),
      v.object({ importId: Id }),
      v.object({ forecastId: Id }),
    ]),
  ),
});
export type JobView = v.InferOutput<typeof JobView>;

/** A day that a preview would write, with what it was worked out from. */
export const PreviewDay = v.object({
  date: v.string(),
  stationId: Id,
  /** Of the log it was worked out from; null where there was none. */
  revision: v.nullable(Revision),
  log: DailyLogSchema,
  items: v.array(LogItem),
  strains: v.array(Strain),
});
export type PreviewDay = v.InferOutput<typeof PreviewDay>;
/** Takes over a preview: the whole, or some hours of one day. */
export const AcceptPreview = v.strictObject({
  /** For one day: the revision of the log as the person saw it beside the preview; null where there was none. */
  revision: v.optional(v.nullable(Revision)),
  date: v.optional(AirDate),
  hours: v.optional(v.array(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(24)))),
});

export const VERSION_REASONS = ['generated', 'before generating', 'handed over', 'before restoring', 'saved'] as const;
/** A log as it was kept. */
export const LogVersion = v.object({
  id: Id,
  atMs: v.number(),
  /** Revision of the log then. */
  revision: Revision,
  reasons: v.array(v.picklist(VERSION_REASONS)),
  slots: v.number(),
  open: v.number(),
});
export type LogVersion = v.InferOutput<typeof LogVersion>;
export const KeptLog = v.object({ ...LogVersion.entries, log: DailyLogSchema, items: v.array(LogItem) });
export type KeptLog = v.InferOutput<typeof KeptLog>;
/** Puts a version back, whole or some hours of it; what has aired stays. */
export const RestoreVersion = v.strictObject({
  revision: Revision,
  versionId: Id,
  hours: v.optional(v.array(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(24)))),
});

export const ActivityRow = v.object({
  id: Id,
  atMs: v.number(),
  label: v.string(),
  stationId: v.nullable(Id),
  /** The tab or program that did it. */
  clientId: v.string(),
  /** The name of the person or token that did it, as it was then; null where nobody had signed in. */
  personName: v.nullable(v.string()),
  personId: v.nullable(v.string()),
  /** Whether it undid something itself. */
  undoes: v.boolean(),
  undone: v.boolean(),
});
export type ActivityRow = v.InferOutput<typeof ActivityRow>;

/** A play of a day that is over, or of one that has no log. */
export const AiredPlay = v.object({ startMs: v.number(), itemId: v.string(), title: v.string(), artist: v.string() });
export type AiredPlay = v.InferOutput<typeof AiredPlay>;

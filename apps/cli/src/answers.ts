import {
  AsRunLine,
  AsRunOutcome,
  BackupFacts,
  CareFinding,
  ForecastAnswer,
  GeneratedDaySummary,
  HandOverRecord,
  LimitCheck,
  ReportAnswer,
  RejectedRow,
  TrafficOutcome,
} from '@fuller/contracts';
import * as v from 'valibot';

const { stations, items, logs } = BackupFacts.entries;
const facts = { stations, items, logs, faults: v.array(v.string()), migrations: v.array(v.string()) };
const byRank = v.record(v.string(), v.number());

/** What each command answers with `--json`, by its words on the command line; `error` is what any of them can answer. */
export const ANSWERS = {
  init: v.object({ data: v.string(), demo: v.boolean() }),
  serve: v.object({ url: v.string() }),
  'import library': v.object({
    read: v.number(),
    added: v.number(),
    changed: v.number(),
    rejected: v.array(RejectedRow),
  }),
  'import traffic': v.pick(TrafficOutcome, ['lines', 'placed', 'tray', 'errors', 'breaks', 'layout']),
  'import asrun': v.object({ ...v.pick(AsRunOutcome, ['rows', 'known']).entries, differences: v.array(AsRunLine) }),
  generate: v.object({ days: v.array(GeneratedDaySummary) }),
  export: v.union([
    v.object({
      ...v.pick(HandOverRecord, ['folder', 'files', 'entries']).entries,
      heldBack: v.array(v.object({ hour: v.number(), title: v.string(), why: v.string() })),
    }),
    v.object({
      date: v.string(),
      outputs: v.array(v.object({ output: v.string(), done: v.boolean(), message: v.string() })),
    }),
  ]),
  check: v.pick(LimitCheck, ['pass', 'pack', 'strict', 'entries', 'violations', 'mend']),
  solve: v.object({
    out: v.string(),
    open: v.number(),
    soft: byRank,
    spread: v.number(),
    rest: v.number(),
    bound: v.object({ open: v.number(), soft: byRank }),
    evaluations: v.number(),
    conflicts: v.number(),
    ms: v.number(),
  }),
  forecast: ForecastAnswer,
  report: v.object({ ...ReportAnswer.entries, file: v.nullable(v.string()) }),
  backup: v.object({ file: v.string(), bytes: v.number(), ...facts }),
  restore: v.object({ data: v.string(), ...facts }),
  verify: v.object({ findings: v.array(CareFinding) }),
  move: v.object({
    rows: v.number(),
    tables: v.array(v.object({ table: v.string(), rows: v.number(), sum: v.string() })),
  }),
  password: v.object({ name: v.string() }),
  error: v.object({ error: v.object({ code: v.string(), message: v.string() }) }),
} as const;
export type AnswerName = keyof typeof ANSWERS;
/** Any answer of a command. */
export type Answer = { [K in AnswerName]: Frozen<v.InferOutput<(typeof ANSWERS)[K]>> }[AnswerName];

type Frozen<T> = T extends readonly (infer E)[]
  ? readonly Frozen<E>[]
  : T extends object
    ? { readonly [K in keyof T]: Frozen<T[K]> }
    : T;

import { deserialize } from 'node:v8';
import type { GeneratedDaySummary } from '@fuller/contracts';
import {
  elementAt,
  lookUp,
  formatLocalDateTime,
  generateDay,
  LogInspector,
  slotsOf,
  StationModel,
  type DailyLog,
  type GenerateOptions,
  type Rule,
  lastListRows,
  themePlays,
  withListPlaces,
  HOUR_MS,
  type SisterPlay,
  type StationData,
  type StationPlay,
  type Strain,
} from '@fuller/core';
import type { RelaxedRule } from '../logs/generate-checks.js';
import type { Judgement } from '../logs/judge.js';

/** A day of another station that was made in the same run. */
export interface MadeElsewhere {
  readonly stationId: string;
  readonly log: DailyLog;
  readonly plays: readonly StationPlay[];
}

export interface GenerateStationDay {
  /** What the day is made from, serialised where it comes from another thread. */
  readonly data: Uint8Array | StationData;
  /** Days made before this one in the same run, which the database does not know yet. */
  readonly made: readonly DailyLog[];
  /** The same of other stations, with what they play. */
  readonly elsewhere?: readonly MadeElsewhere[];
  /** Whether the next day is about to be replaced, so that its old log must not hold this one back. */
  readonly replacesNext: boolean;
  /** Names of categories and sentences of rules, by id. */
  readonly names: Readonly<Record<string, string>>;
  /** Ids of rules that do not apply in this run. */
  readonly rulesOff: readonly string[];
  /** Separations that ask for fewer seconds in this run. */
  readonly relax?: readonly RelaxedRule[] | undefined;
  readonly options: GenerateOptions & { readonly nowMs: number };
}

export interface GeneratedDayResult {
  readonly log: DailyLog;
  readonly summary: GeneratedDaySummary;
  readonly judged: Judgement;
  /** What has begun by this instant was left as it was; UTC epoch milliseconds. */
  readonly airedUntilMs: number;
}

/** Generates a day, judges it and says how it came out. */
export function generateStationDay({
  data,
  made,
  elsewhere = [],
  replacesNext,
  names,
  rulesOff,
  relax = [],
  options,
}: GenerateStationDay): GeneratedDayResult {
  const startedAt = performance.now();
  const read = data instanceof Uint8Array ? (deserialize(data) as StationData) : data;
  const station = withMadeElsewhere(withMadeDays(read, made, replacesNext), elsewhere);
  const rules = station.rules.filter(({ id }) => !rulesOff.includes(id)).map((rule) => relaxed(rule, relax));
  const { log } = generateDay({ ...station, rules }, options);
  const model = new StationModel(station);
  const ms = Math.round(performance.now() - startedAt);
  const strains = new LogInspector(model, log).strains();
  return {
    log,
    summary: { ...summaryOf(model, log, names, ms), soft: softBreaks(model, strains, names) },
    judged: { log, strains, plays: model.plays(log) },
    airedUntilMs: options.nowMs,
  };
}

/** A separation that asks for no more than what it was loosened to, anywhere. */
function relaxed(rule: Rule, relax: readonly RelaxedRule[]): Rule {
  const seconds = relax.find(({ ruleId }) => ruleId === rule.id)?.seconds;
  if (seconds === undefined) return rule;
  const least = (amount: number): number => Math.min(amount, seconds);
  const exceptions = rule.exceptions.map((one) => ({ ...one, amount: least(one.amount) }));
  return { ...rule, amount: least(rule.amount), exceptions };
}

function withMadeDays(data: StationData, made: readonly DailyLog[], replacesNext: boolean): StationData {
  const nextLog = replacesNext ? null : data.nextLog;
  if (made.length === 0) return { ...data, nextLog };
  const model = new StationModel(data);
  const firstMs = elementAt(elementAt(made, 0).hours, 0).startMs;
  const plays = made.flatMap((log) => model.plays(log));
  const history = [...data.history.filter((play) => play.startMs < firstMs), ...plays];
  const themes = [...(data.themes ?? []), ...made.flatMap(themePlays)];
  const plan = made.reduce((now, log) => withListPlaces(now, lastListRows(log)), data.plan);
  return { ...data, plan, history, themes, nextLog };
}

/** What other stations play, by the days just made in place of those they had. */
function withMadeElsewhere(data: StationData, made: readonly MadeElsewhere[]): StationData {
  const { sisterPlays } = data;
  if (!sisterPlays || made.length === 0) return data;
  const isReplaced = ({ stationId, startMs }: SisterPlay): boolean =>
    made.some(({ stationId: id, log: { hours } }) => {
      const [firstMs, lastMs] = [elementAt(hours, 0).startMs, elementAt(hours, hours.length - 1).startMs];
      return id === stationId && startMs >= firstMs && startMs < lastMs + HOUR_MS;
    });
  return {
    ...data,
    sisterPlays: [
      ...sisterPlays.filter((play) => !isReplaced(play)),
      ...made.flatMap(({ stationId, plays }) => plays.map((play) => ({ ...play, stationId }))),
    ],
  };
}

/** How often each wish was given up, in the order of the rules. */
function softBreaks(
  { data }: StationModel,
  strains: readonly Strain[],
  names: GenerateStationDay['names'],
): GeneratedDaySummary['soft'] {
  return data.rules
    .filter(({ strength }) => strength === 'soft')
    .map(({ id }) => ({ rule: names[id] ?? id, breaks: strains.filter(({ ruleId }) => ruleId === id).length }))
    .filter(({ breaks }) => breaks > 0);
}

function summaryOf(
  model: StationModel,
  log: DailyLog,
  names: GenerateStationDay['names'],
  ms: number,
): Omit<GeneratedDaySummary, 'soft'> {
  const timing = model.timing(log);
  const nameOf = (id: string): string => names[id] ?? id;
  const picks = slotsOf(log);
  return {
    date: log.date,
    slots: picks.length,
    filled: picks.filter((entry) => entry.itemId !== null).length,
    open: picks
      .filter((entry) => entry.itemId === null)
      .map((entry) => ({
        start: formatLocalDateTime(lookUp(timing.entries, entry.id).startMs, log.timeZone),
        line: nameOf(entry.categoryId),
        heldBackBy: (entry.open?.heldBackBy ?? []).map(({ ruleId, items }) => ({
          rule: nameOf(ruleId),
          items,
        })),
        proof: entry.open?.proof ?? 'budget',
      })),
    hours: timing.hours.map(({ index, overMs }) => ({
      hour: elementAt(log.hours, index).localHour,
      overSeconds: Math.round(overMs / 1000),
    })),
    ms,
  };
}

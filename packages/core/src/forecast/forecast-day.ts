import { generateDay } from '../generate/generate-day.js';
import { LogInspector } from '../judge/inspect-log.js';
import type { DailyLog } from '../log/daily-log.js';
import { dayFigures, type DayFigures } from '../reports/day-figures.js';
import { lastListRows, withListPlaces } from '../set-lists/list-places.js';
import type { StationData, StationPlay } from '../station/station-data.js';
import { movedTo, withPlaysCounted } from '../station/moves.js';
import { StationModel } from '../station/station-model.js';
import { themePlays } from '../themes/theme-plays.js';
import { addDays, hoursOfDay } from '../time/local-day.js';
import { elementAt } from '../values/look-up.js';

/** Plays this far back decide what may play. */
const REMEMBERED_DAYS = 28;

/** A day that was generated in memory. */
export interface ForecastDay {
  readonly figures: DayFigures;
  /** The station after it: what the next day is made from. */
  readonly after: StationData;
}

/**
 * The days of so many weeks, one generated after the other in memory: each counts those before it as history. The same
 * data and seed give the same days. Nobody has edited anything in them, so they are what the set-up does by itself.
 */
export function* forecastDays(
  data: StationData,
  { from, weeks, seed }: { readonly from: string; readonly weeks: number; readonly seed: number },
): Generator<ForecastDay> {
  let now: StationData = { ...data, nextLog: null };
  for (let n = 0; n < weeks * 7; n++) {
    const date = addDays(from, n);
    now = { ...movedTo(now, date), history: remembered(now.history, date, data.timeZone) };
    const { log } = generateDay(now, { date, seed: seed + n, previous: null, only: 'all' });
    const model = new StationModel(now);
    const plays = model.plays(log);
    now = {
      ...withPlaysCounted(
        now,
        plays.map(({ itemId }) => itemId),
      ),
      history: [...now.history, ...plays],
      themes: [...(now.themes ?? []), ...themePlays(log)],
      plan: withListPlaces(now.plan, lastListRows(log)),
    };
    yield { figures: figuresOf(model, log, plays), after: now };
  }
}

function remembered(plays: readonly StationPlay[], date: string, timeZone: string): readonly StationPlay[] {
  const fromMs = elementAt(hoursOfDay(addDays(date, -REMEMBERED_DAYS), timeZone), 0).startMs;
  return plays.filter(({ startMs }) => startMs >= fromMs);
}

function figuresOf(model: StationModel, log: DailyLog, counted: readonly StationPlay[]): DayFigures {
  const strains: Record<string, number> = {};
  for (const { ruleId } of new LogInspector(model, log).strains()) strains[ruleId] = (strains[ruleId] ?? 0) + 1;
  const places = new Map<string, string>();
  for (const [id, items] of Object.entries(model.data.categories)) for (const item of items) places.set(item, id);
  return dayFigures({
    date: log.date,
    timeZone: log.timeZone,
    log: { log, timing: model.timing(log) },
    counted,
    asRun: null,
    itemWith: (id) => {
      const item = model.known.get(id);
      return item && { ...item, kind: item.kind ?? 'song', cart: null, file: null };
    },
    categoryOf: (id) => places.get(id) ?? null,
    strains,
  });
}

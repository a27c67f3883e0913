import { Assignment } from '../engine/model/assignment.js';
import { compile } from '../engine/model/compile.js';
import { findViolations } from '../engine/score.js';
import { daypartsAt } from '../rules/daypart.js';
import type { Rule, RuleLocation } from '../rules/rule.js';
import type { InstanceSlot } from '../sequence/parts.js';
import { withStationRules } from '../station/instance-rules.js';
import { withStationTags } from '../station/rule-tags.js';
import type { StationPlay } from '../station/station-data.js';
import type { StationModel } from '../station/station-model.js';
import { daysBetween, hoursOfDay, localTimeOf, weekdayOf } from '../time/local-day.js';
import { elementAt, lookUp } from '../values/look-up.js';
import { expandDay } from '../week/expand-day.js';

/** One place where a rule would have been broken. */
export interface BackTestPlace {
  /** Station-local. */
  readonly date: string;
  readonly startMs: number;
  readonly itemId: string;
  /** As in a strain. */
  readonly by: number;
}

/** How often a rule would have been broken. */
export interface BackTestResult {
  readonly breaks: number;
  /** Plays the rule looked at. */
  readonly plays: number;
  readonly days: number;
  /** The latest places, so many as are told. */
  readonly places: readonly BackTestPlace[];
}

const MOST_PLACES = 50;
const FIXED = 'fixed';

/**
 * The plays of some past days as slots of one instance, each where the week as it stands now would have had it. Laid out
 * once; each rule is then counted by the engine's own evaluator.
 */
export class BackTest {
  private readonly slots: InstanceSlot[] = [];
  private readonly locations = new Map<string, RuleLocation>();
  private readonly plays = new Map<string, StationPlay & { readonly date: string }>();
  private readonly history: { readonly item: string; readonly start: number }[] = [];

  /** `plays` in the order of their starts; those before `from` only count as what was before. Dates are station-local, both included. */
  constructor(
    private readonly model: StationModel,
    plays: readonly StationPlay[],
    private readonly from: string,
    private readonly until: string,
  ) {
    const { data, known } = model;
    const startMs = elementAt(hoursOfDay(from, data.timeZone), 0).startMs;
    const music = new Set(data.musicCategories);
    const categoryOf = new Map<string, string>();
    for (const [id, items] of Object.entries(data.categories))
      if (music.has(id)) for (const item of items) if (!categoryOf.has(item)) categoryOf.set(item, id);
    const hours = new Map<string, ReturnType<typeof expandDay>>();
    for (const play of plays) {
      const item = known.get(play.itemId);
      if (!item || (item.kind ?? 'song') !== 'song') continue;
      const start = Math.floor((play.startMs - startMs) / 1000);
      if (start < 0) {
        this.history.push({ item: play.itemId, start });
        continue;
      }
      const { date, hour } = localTimeOf(play.startMs, data.timeZone);
      if (date > until) break;
      if (!hours.has(date)) hours.set(date, expandDay(date, data.timeZone, data.plan, model));
      const aired = lookUp(hours, date).findLast((one) => one.startMs <= play.startMs);
      const id = `s${this.slots.length}`;
      const day = daysBetween(from, date);
      this.slots.push({
        id,
        start,
        hour: Math.floor(start / 3600),
        pool: FIXED,
        locked: play.itemId,
        day,
        hourOfDay: hour,
      });
      this.plays.set(id, { ...play, date });
      this.locations.set(id, {
        categoryId: categoryOf.get(play.itemId) ?? null,
        clockId: aired?.clockId ?? null,
        showId: aired?.showId ?? null,
        daypartIds: daypartsAt(data.dayparts, weekdayOf(date), hour),
      });
    }
  }

  /** How often a rule would have been broken, whether it rests or not. */
  count(rule: Rule): BackTestResult {
    const { rules, slots } = withStationRules([{ ...rule, resting: false }], this.slots, (id) =>
      lookUp(this.locations, id),
    );
    const { data } = this.model;
    const compiled = compile({
      format: 'fuller-instance',
      version: 1,
      items: [...withStationTags(this.model.instanceItems, { ...data, rules: [...data.rules, rule] })],
      pools: { [FIXED]: { items: [], order: 'random' } },
      slots,
      rules,
      history: this.history,
    });
    // Puts the plays into their slots.
    new Assignment(compiled);
    const broken = findViolations(compiled);
    // One play can break a rule more than once: for two values, or by two plays too few.
    const once = broken.filter(({ slot }, n) => slot !== broken[n - 1]?.slot);
    const places = once.slice(-MOST_PLACES).map(({ slot, by }): BackTestPlace => {
      const { date, startMs, itemId } = lookUp(this.plays, slot);
      return { date, startMs, itemId, by };
    });
    return {
      breaks: broken.length,
      plays: this.slots.length,
      days: daysBetween(this.from, this.until) + 1,
      places: places.reverse(),
    };
  }
}

import { lookUpIn } from '../values/look-up.js';
import { solve } from '../engine/solve.js';
import type { OpenSlot, Solution } from '../engine/solution.js';
import { findViolations } from '../engine/score.js';
import { restoreAired } from '../station/aired.js';
import { isByHand, withNotesOfSongs } from '../log/chosen-by-hand.js';
import { bindLog } from '../bound/bind-log.js';
import { placeMessages } from '../sponsors/place-messages.js';
import { chooseThemes } from '../themes/choose-themes.js';
import { withReasons } from './chosen-why.js';
import type { GenerateOptions } from './generate-options.js';
import { withoutSpareFill } from './fill-room.js';
import { airedBy, outOfScope, startingLog } from './starting-log.js';
import { withRun } from './with-run.js';
import {
  allEntries,
  checkLog,
  findEntry,
  openSlots,
  slotsOf,
  type DailyLog,
  type LogEntry,
  type OpenReason,
} from '../log/daily-log.js';
import { asItStands } from '../judge/inspect-log.js';
import { landingOf, type Landing } from './land-marks.js';
import { LAST_OF_PERSONS } from '../station/hour-spread-rules.js';
import { isNextDay, logInstance } from '../station/log-instance.js';
import { StationModel } from '../station/station-model.js';
import type { StationData } from '../station/station-data.js';

/** Times depend on what is chosen and choices on times; this often they are brought together. */
const MOST_PASSES = 8;
/** After which passes the log is brought to its marks, and by what. */
const LANDINGS: Readonly<Record<number, 'all' | 'fill'>> = { 1: 'all', 3: 'all', 5: 'fill', 7: 'fill' };

/** Evaluations of the first pass over a day: twice as many find no better. */
const EVALUATIONS = 160_000;
/** Conflicts a day may take: enough to mend what a search leaves, not to prove what cannot be better. */
const CONFLICTS = 4000;

/** A day that was made. */
export interface GeneratedDay {
  readonly log: DailyLog;
  readonly evaluations: number;
}

/**
 * The log of a day from the station's clocks, categories, rules and history. No hard rule is
 * broken at the times at which the entries really air; a slot for which that cannot be had stays
 * open with its reasons. Throws RangeError for a date or zone that does not exist.
 */
export function generateDay(data: StationData, options: GenerateOptions): GeneratedDay {
  const model = new StationModel(data);
  const aired = airedBy(model, options);
  let log = bindLog(model, startingLog(model, options, aired), aired);
  let evaluations = 0;
  const left = new Set([
    ...aired,
    ...(options.only === 'all' ? byHandIds(log) : filledIds(log)),
    ...outOfScope(log, options),
  ]);
  log = chooseThemes(model, log, options.seed);
  const messages = placeMessages(model, log, left);
  log = messages.log;
  const untouchable = new Set([...left, ...messages.slots]);
  const finished = (last: DailyLog, landed: Landing | null = null): GeneratedDay => ({
    log: finish(model, last, { options, kept: untouchable, aired, landed }),
    evaluations,
  });
  let landed = null as Landing | null;
  for (let pass = 0; pass < MOST_PASSES; pass++) {
    if (landed?.log === log && landed.isSound()) return finished(log, landed);
    const by = LANDINGS[pass];
    const landing: Landing | null = pass > 0 && by ? firstLanding(model, log, untouchable, options.seed, by) : null;
    let solved: DailyLog = log;
    // Where nothing need be mended, what was made ready for landing serves for it.
    if (!landing?.isSound()) {
      const solution = solveDay(model, log, untouchable, options, pass);
      evaluations += solution.stats.evaluations;
      solved = bindLog(model, withSolution(log, solution), aired);
    }
    // Landing moves the times, so the passes after it look at the rules again; what they change is landed once more.
    landed = by ? land(model, solved, untouchable, options.seed, by, solved === log ? landing : undefined) : null;
    const next = bindLog(model, landed?.log ?? solved, aired);
    if (next === log) return finished(log);
    log = next;
  }
  return finished(settle(model, log, untouchable, aired));
}

/** The slots of a log chosen anew in the first pass; those after it mend what the real times have changed. */
function solveDay(
  model: StationModel,
  log: DailyLog,
  untouchable: ReadonlySet<string>,
  options: GenerateOptions,
  pass: number,
): Solution {
  // The passes that mend change as little as they can, so they mind nothing but rules.
  const { instance, start } = logInstance(model, log, pass === 0 && model.data.spreadHours ? 'hours' : 'repeats');
  const held = instance.slots.flatMap((slot) => {
    if (!untouchable.has(slot.id) || slot.locked !== undefined) return [slot];
    return start[slot.id] ? [{ ...slot, locked: lookUpIn(start, slot.id) }] : [];
  });
  return solve(
    { ...instance, slots: held },
    {
      seed: options.seed,
      start,
      explain: 'conflicts',
      effort: pass === 0 ? 'normal' : 'quick',
      change: pass === 0 ? 'all' : 'near',
      evaluations: pass === 0 ? EVALUATIONS : undefined,
      conflicts: CONFLICTS,
      learnRanks: LAST_OF_PERSONS,
      progress: options.progress,
    },
  );
}

/** Entries with an item that the new log took over from a person. */
function byHandIds(log: DailyLog): string[] {
  return allEntries(log).flatMap((entry) => (isByHand(entry) ? [entry.id] : []));
}

/** Marks are reached without hurting rests where they can be, and then where that does not do. */
function firstLanding(
  model: StationModel,
  log: DailyLog,
  untouchable: ReadonlySet<string>,
  seed: number,
  by: 'all' | 'fill',
): Landing | null {
  const guards = model.data.spreadHours && by === 'all' ? 'rests' : 'repeats';
  return landingOf(model, log, untouchable, guards, seed);
}

/** The last landing that was needed, `first` where it is made ready already; null where every mark is met. */
function land(
  model: StationModel,
  log: DailyLog,
  untouchable: ReadonlySet<string>,
  seed: number,
  by: 'all' | 'fill',
  first = firstLanding(model, log, untouchable, seed, by),
): Landing | null {
  const gently = first?.land(by) ?? log;
  if (!first || !model.data.spreadHours || by !== 'all') return first;
  const second = landingOf(model, gently, untouchable, 'repeats', seed);
  second?.land(by);
  return second ?? first;
}

function filledIds(log: DailyLog): string[] {
  return slotsOf(log)
    .filter((entry) => entry.itemId !== null)
    .map((entry) => entry.id);
}

/** Opens whatever still breaks a rule at its real time; opening one never moves another into a rule's way for long. */
function settle(
  model: StationModel,
  log: DailyLog,
  untouchable: ReadonlySet<string>,
  aired: ReadonlySet<string>,
): DailyLog {
  let current = log;
  for (;;) {
    const { compiled } = asItStands(model, current);
    const hard = new Set(compiled.evaluators.filter((rule) => rule.hard).map((rule) => rule.id));
    const mayOpen = (id: string): boolean => {
      const entry = findEntry(current, id);
      return entry?.kind === 'pick' && !entry.locked && !untouchable.has(id);
    };
    const wrong = findViolations(compiled).flatMap((found) => {
      if (!hard.has(found.rule)) return [];
      if (!isNextDay(found.slot)) return mayOpen(found.slot) ? [found] : [];
      // What is charged to the next day's log is put right in this one.
      return found.with.filter(mayOpen).map((slot) => ({ ...found, slot, with: [found.slot] }));
    });
    if (wrong.length === 0) return current;
    const assignment = Object.fromEntries(wrong.map((found) => [found.slot, null]));
    const reasons = wrong.map((found) => ({
      slot: found.slot,
      proof: 'budget' as const,
      heldBackBy: [{ item: '', rule: found.rule, with: found.with }],
      relax: [],
    }));
    current = bindLog(model, withSolution(current, { assignment, open: reasons }), aired);
  }
}

/** The log with what is to be said of its open slots and its choices. */
function finish(
  model: StationModel,
  log: DailyLog,
  {
    options,
    kept,
    aired,
    landed,
  }: {
    readonly options: GenerateOptions;
    readonly kept: ReadonlySet<string>;
    readonly aired: ReadonlySet<string>;
    /** What was made ready to land this very log. */
    readonly landed: Landing | null;
  },
): DailyLog {
  let done = log;
  if (openSlots(log).length > 0) {
    const { instance, start } = logInstance(model, log);
    // Everything that stands stays, so that what is said of the open slots is said of this very log.
    const slots = instance.slots
      .filter(({ id, locked }) => locked !== undefined || start[id] || !kept.has(id))
      .map((slot) => (start[slot.id] ? { ...slot, locked: lookUpIn(start, slot.id) } : slot));
    const { open } = solve({ ...instance, slots }, { seed: options.seed, effort: 'quick', change: 'near' });
    const proofs = new Map(openSlots(log).map((entry) => [entry.id, entry.open?.proof ?? 'budget']));
    const reasons = open.map((one) => ({ ...one, proof: proofs.get(one.slot) ?? 'budget' }));
    done = withSolution(log, { assignment: Object.fromEntries(open.map((one) => [one.slot, null])), open: reasons });
  }
  const { previous } = options;
  const reasoned = withRun(withReasons(model, withoutSpareFill(done), kept, landed?.assignment), options);
  if (!previous) return checkLog(reasoned);
  return checkLog(restoreAired(withNotesOfSongs(reasoned, previous), previous, aired));
}

/** The log with a solution's choices; the very same log when none differs. */
function withSolution(
  log: DailyLog,
  solution: { assignment: Solution['assignment']; open: readonly OpenFacts[] },
): DailyLog {
  const reasons = new Map(solution.open.map((open) => [open.slot, reasonOf(open)]));
  let changed = false;
  const hours = log.hours.map((hour) => {
    let touched = false;
    const entries = hour.entries.map((entry): LogEntry => {
      const itemId = solution.assignment[entry.id];
      if (entry.kind !== 'pick' || itemId === undefined || isNextDay(entry.id)) return entry;
      const open = reasons.get(entry.id) ?? null;
      if (itemId === entry.itemId && JSON.stringify(open) === JSON.stringify(entry.open)) return entry;
      touched = true;
      return { ...entry, itemId, origin: itemId === entry.itemId ? entry.origin : 'engine', open };
    });
    changed ||= touched;
    return touched ? { ...hour, entries } : hour;
  });
  return changed ? { ...log, hours } : log;
}

type OpenFacts = Pick<OpenSlot, 'slot' | 'proof' | 'heldBackBy' | 'relax'>;

function reasonOf(open: OpenFacts): OpenReason {
  const counts = new Map<string, number>();
  for (const { rule } of open.heldBackBy) counts.set(rule, (counts.get(rule) ?? 0) + 1);
  const heldBackBy = [...counts].map(([ruleId, items]) => ({ ruleId, items })).sort((a, b) => b.items - a.items);
  const relax = open.relax.flatMap(({ rule, to }) =>
    typeof to['seconds'] === 'number' ? [{ ruleId: rule, seconds: to['seconds'] }] : [],
  );
  return { proof: open.proof, heldBackBy, relax };
}

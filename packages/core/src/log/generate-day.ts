import { expandDay } from '../clocks/expand-day.js';
import type { ClockLine } from '../clocks/line.js';
import { solve } from '../engine/solve.js';
import type { OpenSlot, Solution } from '../engine/solution.js';
import { findBreaks } from '../engine/score.js';
import { withReasons } from './chosen-why.js';
import {
  allEntries,
  checkLog,
  findEntry,
  openSlots,
  type DailyLog,
  type LogEntry,
  type OpenReason,
} from './daily-log.js';
import { asItStands } from './inspect-log.js';
import { landHours } from './land-hours.js';
import { isNextDay, logInstance } from './log-instance.js';
import { StationModel, type StationData } from './station-data.js';

/** Times depend on what is chosen and choices on times; this often they are brought together. */
const MOST_PASSES = 8;

export interface GenerateOptions {
  readonly date: string;
  readonly seed: number;
  /** The log there is; its locked entries and notes are kept. */
  readonly previous: DailyLog | null;
  /** `open`: only slots that stand open are filled, everything else stays. */
  readonly only: 'all' | 'open';
  /** Told how far the engine is with a pass over the day, 0 to 1; to stop, throw. */
  readonly progress?: (share: number) => void;
}

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
  const keepsChoices = options.only === 'open' && options.previous !== null;
  let log = keepsChoices ? options.previous! : emptyDay(model, options);
  let evaluations = 0;
  const untouchable = keepsChoices ? new Set(filledIds(log)) : new Set<string>();
  for (let pass = 0; pass < MOST_PASSES; pass++) {
    // The passes that mend change as little as they can, so they mind nothing but rules.
    const { instance, start } = logInstance(model, log, pass === 0 && data.spreadHours ? 'hours' : 'rules');
    const held = instance.slots.map((slot) =>
      untouchable.has(slot.id) && start[slot.id] ? { ...slot, locked: start[slot.id]! } : slot,
    );
    const solution = solve(
      { ...instance, slots: held },
      {
        seed: options.seed + pass,
        start,
        explain: 'conflicts',
        // The first pass makes the day; those after it mend what the real times have changed.
        effort: pass === 0 ? 'normal' : 'quick',
        change: pass === 0 ? 'all' : 'near',
        progress: options.progress,
      },
    );
    evaluations += solution.stats.evaluations;
    const solved = withSolution(log, solution);
    // Landing moves the times, so the passes after it look at the rules again; what they change is landed once more.
    const next = pass === 1 || pass === 3 ? land(model, solved, untouchable) : solved;
    if (next === log) return { log: finish(model, log, options), evaluations };
    log = next;
  }
  return { log: finish(model, settle(model, log, untouchable), options), evaluations };
}

/** Hours land without hurting rests where they can, and then where that does not do. */
function land(model: StationModel, log: DailyLog, untouchable: ReadonlySet<string>): DailyLog {
  const gently = model.data.spreadHours ? landHours(model, log, untouchable, 'rests') : log;
  return landHours(model, gently, untouchable, 'rules');
}

function filledIds(log: DailyLog): string[] {
  return allEntries(log)
    .filter((entry) => entry.kind === 'pick' && entry.itemId !== null)
    .map((entry) => entry.id);
}

/** Opens whatever still breaks a rule at its real time; opening one never moves another into a rule's way for long. */
function settle(model: StationModel, log: DailyLog, untouchable: ReadonlySet<string>): DailyLog {
  let current = log;
  for (;;) {
    const { compiled } = asItStands(model, current);
    const hard = new Set(compiled.evaluators.filter((rule) => rule.hard).map((rule) => rule.id));
    const wrong = findBreaks(compiled).filter(({ rule, slot }) => {
      const entry = hard.has(rule) ? findEntry(current, slot) : undefined;
      return entry?.kind === 'pick' && !entry.locked && !untouchable.has(slot);
    });
    if (wrong.length === 0) return current;
    const assignment = Object.fromEntries(wrong.map((found) => [found.slot, null]));
    const reasons = wrong.map((found) => ({
      slot: found.slot,
      proof: 'budget' as const,
      heldBackBy: [{ item: '', rule: found.rule, with: found.with }],
      relax: [],
    }));
    current = withSolution(current, { assignment, open: reasons });
  }
}

/** The log with what is to be said of its open slots and its choices. */
function finish(model: StationModel, log: DailyLog, options: GenerateOptions): DailyLog {
  let done = log;
  if (openSlots(log).length > 0) {
    const { instance, start } = logInstance(model, log);
    // Everything that stands stays, so that what is said of the open slots is said of this very log.
    const slots = instance.slots.map((slot) => (start[slot.id] ? { ...slot, locked: start[slot.id]! } : slot));
    const { open } = solve({ ...instance, slots }, { seed: options.seed, effort: 'quick', change: 'near' });
    const proofs = new Map(openSlots(log).map((entry) => [entry.id, entry.open?.proof ?? 'budget']));
    const reasons = open.map((one) => ({ ...one, proof: proofs.get(one.slot) ?? 'budget' }));
    done = withSolution(log, { assignment: Object.fromEntries(open.map((one) => [one.slot, null])), open: reasons });
  }
  return checkLog(withReasons(model, done));
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

/** The day with every slot open but those a person has locked, and with the notes they wrote. */
export function emptyDay(model: StationModel, options: Pick<GenerateOptions, 'date' | 'previous'>): DailyLog {
  const { data } = model;
  const before = new Map(options.previous ? allEntries(options.previous).map((entry) => [entry.id, entry]) : []);
  const clocks = new Map(data.clocks.map((clock) => [clock.id, clock]));
  const planned = expandDay(options.date, data.timeZone, data.plan, clocks, model);
  return {
    date: options.date,
    timeZone: data.timeZone,
    hours: planned.map(({ lines, ...hour }) => ({
      ...hour,
      entries: lines.map(({ entryId, line }) => entryFor(entryId, line, before.get(entryId))),
    })),
  };
}

function entryFor(id: string, line: ClockLine, before: LogEntry | undefined): LogEntry {
  const note = before?.note ?? '';
  switch (line.kind) {
    case 'pick': {
      const kept = before?.kind === 'pick' && before.locked && before.categoryId === line.categoryId;
      const own = line.turnOrder ? { turnOrder: line.turnOrder } : {};
      return kept
        ? before
        : {
            ...own,
            id,
            kind: 'pick',
            categoryId: line.categoryId,
            itemId: null,
            locked: false,
            origin: 'engine',
            open: null,
            note,
          };
    }
    case 'item':
      return { id, kind: 'item', itemId: line.itemId, note };
    case 'break':
      return { id, kind: 'break', bookedAtMs: line.bookedAtMs, durationMs: line.durationMs, note };
    case 'note':
      return { id, kind: 'note', text: line.text, note };
  }
}

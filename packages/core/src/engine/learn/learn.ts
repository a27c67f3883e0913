import { FIRST_SOFT, OPEN } from '../model/assignment.js';
import type { Search } from '../search/improve.js';
import { matters, windowAbout } from '../search/neighbourhoods.js';
import { DomainCuts } from './domains.js';
import { ModelSearch } from './model-search.js';

/** The share of all conflicts that filling every slot may take, and that windows of a large log may. */
const FILLING = 0.2;
const LOCAL = 0.25;
/** Conflicts a window of a large log may take, and slots it has. */
const WINDOW = 1000;
const WINDOW_SLOTS = 24;
/** Windows in a row that gain nothing before it is enough, and the most of all. */
const EMPTY = 12;
const MOST_WINDOWS = 400;
/** The most slots of a model of the whole log. */
const MOST_SLOTS = 800;

/**
 * Brings open slots and soft ranks down, and proves them, by conflict learning over models of the log: a large log window
 * by window first, then the whole, rank by rank from below. What it finds goes to the incumbent, what it proves to the
 * bounds. Spends about `conflicts` conflicts at most; ranks after `lastRank` are not looked at.
 */
export function learn(search: Search, conflicts: number, lastRank = Number.POSITIVE_INFINITY): void {
  const { assignment, incumbent, bounds, free } = search;
  const end = FIRST_SOFT + assignment.ranks.filter((rank) => rank <= lastRank).length;
  if (conflicts === 0 || bounds.firstAbove(incumbent.score, end) < 0) return;
  let left = conflicts;
  const shared: Shared = { domains: new DomainCuts(assignment), end };
  incumbent.restore();
  if (shared.domains.of(free).cut) left -= learnLocally(search, shared, left * LOCAL);
  if (bounds.firstAbove(incumbent.score, end) < 0) return;
  if (free.length > MOST_SLOTS) learnLocally(search, shared, left);
  else learnWhole(search, shared, left);
}

/** What all models of a search share. */
interface Shared {
  readonly domains: DomainCuts;
  /** Levels from this one on are not looked at. */
  readonly end: number;
}

/** One model of all that is free. */
function learnWhole(search: Search, shared: Shared, conflicts: number): void {
  const { incumbent, bounds, free } = search;
  let left = conflicts;
  incumbent.restore();
  if (!bounds.isAt(incumbent.score, OPEN)) {
    const full = new ModelSearch(search, {
      decided: free,
      domains: shared.domains.of(free),
      openings: false,
      end: shared.end,
    });
    if (full.fill(left * FILLING) === 'refuted' && full.proves) bounds.raise(OPEN, 1);
    left -= full.conflicts;
    search.conflicts += full.conflicts;
  }
  const whole = searchOver(search, shared, free);
  whole.rankByRank(left);
  search.conflicts += whole.conflicts;
}

/** Windows about what is broken in the first level above its bound; answers the conflicts spent. */
function learnLocally(search: Search, shared: Shared, conflicts: number): number {
  const { assignment, incumbent, bounds, random } = search;
  let spent = 0;
  let empty = 0;
  for (let round = 0; round < MOST_WINDOWS && empty < EMPTY && spent < conflicts; round++) {
    const level = bounds.firstAbove(incumbent.score, shared.end);
    if (level < 0) break;
    incumbent.restore();
    const found = matters(assignment, level);
    if (found.length === 0) break;
    const before = incumbent.score.slice(0, shared.end).join(' ');
    const window = windowAbout(assignment, found[random.below(found.length)]!, WINDOW_SLOTS, random);
    const local = searchOver(search, shared, window);
    local.rankByRank(Math.min(WINDOW, conflicts - spent));
    spent += local.conflicts;
    search.conflicts += local.conflicts;
    empty = incumbent.score.slice(0, shared.end).join(' ') === before ? empty + 1 : 0;
  }
  return spent;
}

/** A model of some positions, whose slots may stay open where one does now. */
function searchOver(search: Search, shared: Shared, decided: readonly number[]): ModelSearch {
  const { assignment, incumbent } = search;
  const { compiled, history, itemAt } = assignment;
  incumbent.restore();
  const openings = decided.some((p) => itemAt[p]! < 0 && compiled.domains[p - history]!.length > 0);
  return new ModelSearch(search, { decided, domains: shared.domains.of(decided), openings, end: shared.end });
}

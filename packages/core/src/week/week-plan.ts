/** A day of the week, minutes. */
export const DAY_MINUTES = 1440;
/** A week, minutes; 0 is Monday at midnight. */
export const WEEK_MINUTES = 7 * DAY_MINUTES;
/** The finest step of a plan, minutes. */
export const GRAIN_MINUTES = 5;

/** What can be painted onto the week. */
export const BLOCK_RUNS = ['clock', 'show', 'draw', 'set list'] as const;

/** What runs in a block: a clock or picks of a category or pool, again and again, a show, or a set list. */
export interface BlockContent {
  readonly runs: (typeof BLOCK_RUNS)[number];
  readonly id: string;
}

/** A stretch of the plan. Minutes are those of the station's wall clock. */
export interface PlanBlock extends BlockContent {
  /** From Monday 00:00 in the week, from 00:00 on a date. */
  readonly at: number;
  readonly minutes: number;
}

/** Which clock or show runs when in the week: blocks in order that never overlap; one may reach over Sunday's midnight. */
export interface WeekPlan {
  readonly blocks: readonly PlanBlock[];
  /** Runs wherever no block stands. */
  readonly defaultClockId: string | null;
}

/** A week in which nothing is painted. */
export const EMPTY_WEEK: WeekPlan = { blocks: [], defaultClockId: null };

/** The block that covers a minute of the week. */
export function blockAt({ blocks }: Pick<WeekPlan, 'blocks'>, minute: number): PlanBlock | undefined {
  return blocks.find(
    ({ at, minutes }) =>
      (minute >= at && minute < at + minutes) || (minute + WEEK_MINUTES >= at && minute + WEEK_MINUTES < at + minutes),
  );
}

/** The blocks of one day of the week (0 Monday) that begin on it, in minutes of that day. */
export function blocksOfDay({ blocks }: Pick<WeekPlan, 'blocks'>, weekday: number): PlanBlock[] {
  return blocks
    .filter(({ at }) => Math.floor(at / DAY_MINUTES) === weekday)
    .map((block) => ({ ...block, at: block.at - weekday * DAY_MINUTES }));
}

/** A block less a stretch of minutes. */
function without(block: PlanBlock, from: number, to: number): PlanBlock[] {
  const end = block.at + block.minutes;
  if (to <= block.at || from >= end) return [block];
  return [
    ...(from > block.at ? [{ ...block, minutes: from - block.at }] : []),
    ...(to < end ? [{ ...block, at: to % WEEK_MINUTES, minutes: end - to }] : []),
  ];
}

/** Blocks less a stretch, wherever it or they reach over the end of the week. */
function clear(blocks: readonly PlanBlock[], from: number, to: number): PlanBlock[] {
  return [-WEEK_MINUTES, 0, WEEK_MINUTES].reduce<PlanBlock[]>(
    (left, shift) => left.flatMap((block) => without(block, from + shift, to + shift)),
    [...blocks],
  );
}

/** In order; neighbours of one clock on one day become one block. */
function tidy(blocks: readonly PlanBlock[]): PlanBlock[] {
  const sorted = [...blocks].sort((a, b) => a.at - b.at);
  const merged: PlanBlock[] = [];
  for (const block of sorted) {
    const last = merged.at(-1);
    const joins =
      (last?.runs === 'clock' || last?.runs === 'draw') &&
      block.runs === last.runs &&
      last.id === block.id &&
      last.at + last.minutes === block.at &&
      block.at % DAY_MINUTES !== 0;
    if (joins) merged[merged.length - 1] = { ...last, minutes: last.minutes + block.minutes };
    else merged.push(block);
  }
  return merged;
}

function sameBlocks(a: readonly PlanBlock[], b: readonly PlanBlock[]): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}

/** Clock blocks end with their day, so that a clock of another length begins anew in the morning. */
function byDay(block: PlanBlock): PlanBlock[] {
  if (block.runs === 'show' || block.runs === 'set list') return [block];
  const parts: PlanBlock[] = [];
  for (let { at, minutes } = block; minutes > 0;) {
    const part = Math.min(minutes, DAY_MINUTES - (at % DAY_MINUTES));
    parts.push({ ...block, at: at % WEEK_MINUTES, minutes: part });
    at += part;
    minutes -= part;
  }
  return parts;
}

/** The plan with a stretch given to a clock or a show, or with null to the default; the same plan when nothing changes. */
export function paint(plan: WeekPlan, at: number, minutes: number, content: BlockContent | null): WeekPlan {
  const left = clear(plan.blocks, at, at + minutes);
  const added = content === null ? [] : byDay({ at, minutes, runs: content.runs, id: content.id });
  const blocks = tidy([...left, ...added]);
  return sameBlocks(blocks, plan.blocks) ? plan : { ...plan, blocks };
}

/** The plan with a block at another place or of another length; what it comes to lie on gives way. */
export function reshape(plan: WeekPlan, block: PlanBlock, at: number, minutes: number): WeekPlan {
  const rest = plan.blocks.filter((other) => other.at !== block.at);
  const place = (at + WEEK_MINUTES) % WEEK_MINUTES;
  return paint({ ...plan, blocks: rest }, place, Math.max(GRAIN_MINUTES, Math.min(minutes, DAY_MINUTES)), block);
}

/** The plan with one day of the week (0 Monday) copied onto others. */
export function copyDay(plan: WeekPlan, from: number, to: Iterable<number>): WeekPlan {
  const blocks = blocksOfDay(plan, from);
  let copied = plan;
  for (const day of to) {
    if (day === from) continue;
    // What began on the day itself gives way; a show that reaches in from the day before stays.
    copied = {
      ...copied,
      blocks: copied.blocks.filter(({ at }) => Math.floor(at / DAY_MINUTES) !== day),
    };
    for (const block of blocks) copied = paint(copied, day * DAY_MINUTES + block.at, block.minutes, block);
  }
  return sameBlocks(copied.blocks, plan.blocks) ? plan : copied;
}

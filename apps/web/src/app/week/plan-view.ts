import {
  elementAt,
  DAY_MINUTES,
  timelineOf,
  WEEK_MINUTES,
  type BlockContent,
  type PlanBlock,
  type Stretch,
} from '@fuller/core';
import type { NamedPlan } from '../state/catalogue.feature';
import type { GridStretch } from './plan-grid';

export const DAY_WORDS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
/** A week without dates that differ, to show the plan as it repeats. */
const SOME_MONDAY = ['2001-01-01', '2001-01-02', '2001-01-03', '2001-01-04', '2001-01-05', '2001-01-06', '2001-01-07'];

/** What a block or the default is called and what colour it has. */
export function nameOf(plan: NamedPlan, content: BlockContent | null): { label: string; colour: string } {
  if (!content) return { label: 'nothing', colour: 'transparent' };
  const things: Readonly<Record<BlockContent['runs'], readonly Named[]>> = {
    clock: plan.clocks,
    show: plan.shows,
    draw: plan.sources ?? [],
    'set list': (plan.setLists ?? []).map(({ id, name }) => ({ id, name, colour: SET_LIST_COLOUR })),
  };
  const found = things[content.runs].find(({ id }) => id === content.id);
  return found
    ? { label: found.name, colour: found.colour }
    : { label: `Deleted ${content.runs === 'draw' ? 'category' : content.runs}`, colour: 'var(--quiet)' };
}

/** Set lists have one colour in the week. */
export const SET_LIST_COLOUR = '#8A5A83';

type Named = NonNullable<NamedPlan['sources']>[number];

/** What is on the air on a day of the week, 0 Monday. */
export function stretchesOfDay(plan: NamedPlan, weekday: number): GridStretch[] {
  const usual = { ...plan, dates: [] };
  return timelineOf(elementAt(SOME_MONDAY, weekday), usual).flatMap((stretch) =>
    cutToDay(
      stretch,
      (blockFrom) => {
        const at = (weekday * DAY_MINUTES + blockFrom + WEEK_MINUTES) % WEEK_MINUTES;
        return plan.week.blocks.find((block) => block.at === at && block.id === stretch.content?.id) ?? null;
      },
      plan,
    ),
  );
}

/** What is on the air on a date: blocks of the plan in hand, and under them what there would be without it. */
export function stretchesOfDate(date: string, plan: NamedPlan, own: readonly PlanBlock[]): GridStretch[] {
  return timelineOf(date, plan)
    .flatMap((stretch) =>
      cutToDay(
        stretch,
        (blockFrom) => own.find(({ at, id }) => at === blockFrom && id === stretch.content?.id) ?? null,
        plan,
      ),
    )
    .map((stretch) => (stretch.block || stretch.kind === 'silent' ? stretch : { ...stretch, kind: 'under' }));
}

function cutToDay(stretch: Stretch, blockOf: (blockFrom: number) => PlanBlock | null, plan: NamedPlan): GridStretch[] {
  const from = Math.max(0, stretch.from);
  const to = Math.min(DAY_MINUTES, stretch.to);
  if (to <= from) return [];
  const block = blockOf(stretch.blockFrom);
  const kind = block ? 'block' : stretch.silent ? 'silent' : 'default';
  const named = stretch.silent ? { label: 'Silence', colour: 'var(--quiet)' } : nameOf(plan, stretch.content);
  return [{ from, to, ...named, kind, show: stretch.content?.runs === 'show', block }];
}

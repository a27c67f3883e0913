import { computed, inject } from '@angular/core';
import { Router } from '@angular/router';
import type { DatePlanRow } from '@fuller/contracts';
import {
  addDays,
  DAY_MINUTES,
  datesOf,
  EMPTY_WEEK,
  isDate,
  paint,
  reshape,
  type BlockContent,
  type PlanBlock,
  type WeekPlan,
} from '@fuller/core';
import { patchState, signalStore, withComputed, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Draft } from '../shared/draft';
import { dayYearText } from '../shared/text/when';
import { catalogueFeature, type NamedPlan } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import type { GridStretch, Stroke } from './plan-grid';
import { nameOf, stretchesOfDate } from './plan-view';
import { likelyRepeats, repeatWords, splitUntil, withUntil } from './repeats';

/** Dates that come again are looked for so far ahead. */
const DAYS_AHEAD = 800;
const SHOWN_DATES = 5;

interface DatesState {
  readonly dateId: string | null;
  /** What is painted with; null clears. */
  readonly brush: BlockContent | null;
  /** A stroke is so long, minutes. */
  readonly step: number;
}

/** The dates of a station that differ, and the one that is being changed. */
export const DatesStore = signalStore(
  withState<DatesState>({ dateId: null, brush: null, step: 60 }),
  withProps(({ dateId }, store = inject(Store), changes = inject(Changes)) => {
    const dates = store.selectSignal(catalogueFeature.selectDates);
    const stored = computed(() => dates().find(({ id }) => id === dateId()) ?? null);
    return {
      dates,
      air: store.selectSignal(catalogueFeature.selectAirPlan),
      station: store.selectSignal(catalogueFeature.selectStation),
      draft: new Draft<DatePlanRow>(stored, changes),
    };
  }),
  withComputed(({ station, draft }) => ({
    today: computed(() => station()?.today ?? '2026-01-01'),
    one: computed(() => draft.value()),
  })),
  withComputed(({ dates, today, one }) => {
    const comingOf = (date: DatePlanRow): string[] =>
      datesOf(date, today(), addDays(today(), DAYS_AHEAD)).slice(0, SHOWN_DATES);
    return {
      list: computed(() =>
        dates().map((date) => {
          const [next] = comingOf(date);
          return { ...date, words: repeatWords(date.start, date.repeat), next: next ? dayYearText(next) : 'no more' };
        }),
      ),
      coming: computed(() => {
        const date = one();
        return date ? comingOf(date) : [];
      }),
    };
  }),
  withComputed(({ one, coming, today, air, brush }) => {
    const rule = computed(() => splitUntil(one()?.repeat ?? ''));
    const shownDate = computed(() => coming()[0] ?? one()?.start ?? today());
    return {
      rule,
      shownDate,
      repeats: computed(() => {
        const date = one();
        if (!date) return [];
        const likely = likelyRepeats(date.start);
        const own = rule().rule;
        return likely.some((repeat) => repeat.rule === own)
          ? likely
          : [...likely, { rule: own, words: 'by a rule of your own' }];
      }),
      columns: computed(() => {
        const [date, plan, shown] = [one(), air(), shownDate()];
        if (!date || !plan) return [];
        // The plan is shown as it will be, laid over all others.
        const others = plan.dates.filter(({ id }) => id !== date.id);
        const withIt: NamedPlan = { ...plan, dates: [...others, { ...date, start: shown, repeat: '' }] };
        const usual: NamedPlan = { ...plan, dates: others };
        return [
          { label: 'This day', strong: true, stretches: stretchesOfDate(shown, withIt, date.blocks) },
          { label: 'Without it', strong: false, stretches: stretchesOfDate(shown, usual, []) },
        ];
      }),
      brushLook: computed(() => {
        const [plan, content] = [air(), brush()];
        return plan && content ? nameOf(plan, content) : { label: 'No change', colour: 'var(--quiet)' };
      }),
    };
  }),
  withMethods((store) => {
    const [api, changes, router] = [inject(Api), inject(Changes), inject(Router)];
    const stationId = inject(Store).selectSignal(catalogueFeature.selectStationId);
    const save = (patch: Partial<DatePlanRow>): void => {
      const [id, station] = [store.one()?.id, stationId()];
      if (id && station)
        void store.draft.save(patch, (revision) => api.patchDate({ stationId: station, id }, { revision, ...patch }));
    };
    /** The blocks of the day are edited as a week's are; what reaches over midnight goes on into the day after. */
    const edit = (change: (plan: WeekPlan) => WeekPlan): void => {
      const date = store.one();
      if (date) save({ blocks: joined(change({ ...EMPTY_WEEK, blocks: date.blocks }).blocks) });
    };
    const withinDay = (strokes: readonly Stroke[]): Stroke[] => strokes.filter(({ at }) => at < DAY_MINUTES);
    return {
      save,
      open(dateId: string | null): void {
        patchState(store, { dateId });
      },
      setBrush(brush: BlockContent | null): void {
        patchState(store, { brush });
      },
      setStep(step: number): void {
        patchState(store, { step });
      },
      /** Paints with what the cursor is on from now on. */
      pickUp({ block }: GridStretch): void {
        patchState(store, { brush: block ? { runs: block.runs, id: block.id } : null });
      },
      paint(strokes: readonly Stroke[]): void {
        const brush = store.brush();
        const show = brush?.runs === 'show' ? store.air()?.shows.find(({ id }) => id === brush.id) : undefined;
        edit((plan) =>
          withinDay(strokes).reduce((left, { at, minutes }) => {
            const length = show && minutes <= store.step() ? show.minutes : minutes;
            return paint(left, at, length, brush);
          }, plan),
        );
      },
      clear(strokes: readonly Stroke[]): void {
        edit((plan) => withinDay(strokes).reduce((left, { at, minutes }) => paint(left, at, minutes, null), plan));
      },
      reshape({ block, at, minutes }: { block: PlanBlock; at: number; minutes: number }): void {
        if (at >= 0 && at < DAY_MINUTES) edit((plan) => reshape(plan, block, at, minutes));
      },
      setRule(rule: string): void {
        save({ repeat: withUntil(rule, store.rule().until) });
      },
      setUntil(until: string): void {
        if (until === '' || isDate(until)) save({ repeat: withUntil(store.rule().rule, until) });
      },
      /** Why it cannot be made, or null. */
      async create(name: string, start: string): Promise<string | null> {
        const station = stationId();
        if (!isDate(start) || !station) return 'Choose the date it begins on.';
        const made = await changes.made(api.createDate({ stationId: station }, { name, start }));
        if (typeof made === 'string') return made;
        void router.navigate(['/', station, 'week', 'dates', made.id]);
        return null;
      },
      async remove(): Promise<void> {
        const [id, station] = [store.one()?.id, stationId()];
        if (id && station && (await changes.run(api.deleteDate({ stationId: station, id }))))
          void router.navigate(['/', station, 'week', 'dates']);
      },
    };
  }),
);

/** Blocks of a date; a part that was cut off at midnight is put back to the one before it. */
function joined(blocks: readonly PlanBlock[]): PlanBlock[] {
  return blocks.reduce<PlanBlock[]>((left, block) => {
    const last = left.at(-1);
    if (block.at < 1440) return [...left, block];
    if (last && last.at + last.minutes === block.at && last.id === block.id)
      return [...left.slice(0, -1), { ...last, minutes: last.minutes + block.minutes }];
    return left;
  }, []);
}

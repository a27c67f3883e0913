import { computed, inject } from '@angular/core';
import {
  blockAt,
  copyDay,
  DAY_MINUTES,
  listsOfPlan,
  paint,
  reshape,
  turnoverHours,
  weekdayOf,
  weeklyDemand,
  type BlockContent,
  type PlanBlock,
  type WeekPlan,
} from '@fuller/core';
import { patchState, signalStore, withComputed, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { ClockNames } from '../clocks/clock-names';
import { catalogueFeature, type NamedPlan } from '../state/catalogue.feature';
import type { GridStretch, Stroke } from './plan-grid';
import { DAY_WORDS, nameOf, stretchesOfDay } from './plan-view';
import { WeekDraft } from './week-draft';

interface WeekState {
  /** What is painted with; null paints the default. */
  readonly brush: BlockContent | null;
  /** A stroke is so long, minutes. */
  readonly step: number;
  /** Where the keys are, a minute of the week. */
  readonly cursor: number;
  /** The day that was copied, 0 is Monday. */
  readonly copied: number | null;
}

/** The week being painted, and what it asks of the categories. */
export const WeekStore = signalStore(
  withState<WeekState>({ brush: null, step: 60, cursor: 0, copied: null }),
  withProps((_, store = inject(Store), draft = inject(WeekDraft)) => ({
    plan: draft.plan,
    /** The week before the last change of this visit. */
    before: draft.before,
    clocks: store.selectSignal(catalogueFeature.selectAllClocks),
    station: store.selectSignal(catalogueFeature.selectStation),
    _stored: store.selectSignal(catalogueFeature.selectAirPlan),
    _sources: store.selectSignal(catalogueFeature.selectSources),
  })),
  withComputed(({ plan, before, _stored, _sources }, clockNames = inject(ClockNames)) => {
    /** What set lists ask for: their rows stay on the server, which has counted them for the week as it is stored. */
    const ofLists = computed(() => {
      const air = _stored();
      if (!air || listsOfPlan(air).size === 0) return [];
      const others = weeklyDemand(air, clockNames.lengths());
      return _sources().map(({ id, slotsPerWeek }) => [id, slotsPerWeek - (others.get(id) ?? 0)] as const);
    });
    const demandOf = (week: WeekPlan): Map<string, number> => {
      const air = _stored();
      if (!air) return new Map();
      const demand = weeklyDemand({ ...air, week }, clockNames.lengths());
      for (const [id, more] of ofLists()) {
        const slots = (demand.get(id) ?? 0) + more;
        if (slots > 0) demand.set(id, slots);
        else demand.delete(id);
      }
      return demand;
    };
    const demand = computed(() => demandOf(plan()));
    return {
      air: computed<NamedPlan | null>(() => {
        const air = _stored();
        return air && { ...air, week: plan() };
      }),
      _demand: demand,
      _demandBefore: computed(() => {
        const week = before();
        return week ? demandOf(week) : demand();
      }),
    };
  }),
  withComputed(({ air, brush, station, cursor, plan, clocks, _sources, _demand, _demandBefore }) => {
    const today = computed(() => weekdayOf(station()?.today ?? '2026-01-05'));
    return {
      cursorDay: computed(() => Math.floor(cursor() / DAY_MINUTES)),
      columns: computed(() => {
        const shown = air();
        return DAY_WORDS.map((label, day) => ({
          label,
          strong: day === today(),
          stretches: shown ? stretchesOfDay(shown, day) : [],
        }));
      }),
      brushLook: computed(() => {
        const [shown, content] = [air(), brush()];
        return shown && content ? nameOf(shown, content) : { label: 'Default', colour: 'var(--quiet)' };
      }),
      /** What the week asks of each category, and what the last change made of it. */
      demand: computed(() => {
        const [now, was] = [_demand(), _demandBefore()];
        return _sources()
          .filter(({ id }) => now.has(id) || was.has(id))
          .map((category) => {
            const [slots, slotsBefore] = [now.get(category.id) ?? 0, was.get(category.id) ?? 0];
            const turnover = turnoverText(turnoverHours(category.items, slots), category.items);
            const turnoverBefore = turnoverText(turnoverHours(category.items, slotsBefore), category.items);
            return {
              category,
              slots,
              change: slots - slotsBefore,
              turnover,
              before: turnover === turnoverBefore ? '' : turnoverBefore,
            };
          });
      }),
      /** What stands where the cursor is: a block, or what runs by default. */
      here: computed(() => {
        const shown = air();
        if (!shown || clocks().length === 0) return null;
        const block = blockAt(plan(), cursor()) ?? null;
        const { defaultClockId } = shown.week;
        const content = block ?? (defaultClockId ? { runs: 'clock' as const, id: defaultClockId } : null);
        return { block, content, title: nameOf(shown, content).label };
      }),
    };
  }),
  withMethods((store) => {
    const draft = inject(WeekDraft);
    return {
      setBrush(brush: BlockContent | null): void {
        patchState(store, { brush });
      },
      setStep(step: number): void {
        patchState(store, { step });
      },
      setCursor(cursor: number): void {
        patchState(store, { cursor });
      },
      /** Paints with what the cursor is on from now on. */
      pickUp({ block }: GridStretch): void {
        patchState(store, { brush: block ? { runs: block.runs, id: block.id } : null });
      },
      paint(strokes: readonly Stroke[]): void {
        const brush = store.brush();
        const show = brush?.runs === 'show' ? store.air()?.shows.find(({ id }) => id === brush.id) : undefined;
        draft.change((plan) =>
          strokes.reduce((painted, { at, minutes }) => {
            // A show laid down with one stroke has its own length.
            const length = show && minutes <= store.step() ? show.minutes : minutes;
            return paint(painted, at, length, brush);
          }, plan),
        );
      },
      clear(strokes: readonly Stroke[]): void {
        draft.change((plan) => strokes.reduce((cleared, { at, minutes }) => paint(cleared, at, minutes, null), plan));
      },
      reshape({ block, at, minutes }: { block: PlanBlock; at: number; minutes: number }): void {
        draft.change((plan) => reshape(plan, block, at, minutes));
      },
      copy(day: number): void {
        patchState(store, { copied: day });
      },
      paste(days: readonly number[]): void {
        const from = store.copied();
        if (from !== null) draft.change((plan) => copyDay(plan, from, days));
      },
      /** Copies the day of the cursor onto others. */
      copyTo(days: readonly number[]): void {
        if (days.length > 0) draft.change((plan) => copyDay(plan, store.cursorDay(), days));
      },
      /** Begins or ends the block under the cursor at a minute of its day; what would be none goes on over midnight. */
      retime(edge: 'from' | 'to', minute: number): void {
        const block = blockAt(store.plan(), store.cursor());
        if (!block) return;
        const day = Math.floor(block.at / DAY_MINUTES) * DAY_MINUTES;
        const at = edge === 'from' ? day + (minute % DAY_MINUTES) : block.at;
        const length = (edge === 'from' ? block.at + block.minutes : day + minute) - at;
        draft.change((plan) => reshape(plan, block, at, length > 0 ? length : length + DAY_MINUTES));
      },
      setDefault(clockId: string | null): void {
        draft.change((plan) => ({ ...plan, defaultClockId: clockId }));
      },
    };
  }),
);

function turnoverText(hours: number | null, items: number): string {
  if (hours === null) return '';
  if (items === 0) return 'empty';
  return hours < 72 ? `${Math.round(hours)} h` : `${(hours / 24).toFixed(1)} d`;
}

import { computed, inject } from '@angular/core';
import type { BeginView, SetUpView } from '@fuller/contracts';
import { bandColour, joinPart, moveBorder, slotsAWeek, splitPart, turnoverHours } from '@fuller/core';
import { patchState, signalStore, withComputed, withMethods, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { messageOf } from '../shared/reading';
import { catalogueActions } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { GenerateRuns } from '../state/generate-runs';
import { JobWatch } from '../state/job-watch';

export type Axis = BeginView['axes'][number];
export type Part = Axis['proposed'][number];

/** A category as it is cut now. */
export interface CutPart extends Part {
  readonly colour: string;
  readonly songs: number;
  readonly turnoverHours: number | null;
}

interface BeginState {
  readonly stationId: string;
  readonly view: BeginView | null;
  readonly problem: string | null;
  readonly busy: boolean;
  /** The axis the songs are cut along; null for the first. */
  readonly axisKey: string | null;
  /** The cut as somebody changed it; null as proposed. */
  readonly parts: readonly Part[] | null;
  readonly breaks: 0 | 1 | 2;
  readonly setUp: SetUpView | null;
}

/** The beginning of a station: its songs, how they are cut into categories, and what is set up for them. */
export const BeginStore = signalStore(
  withState<BeginState>({
    stationId: '',
    view: null,
    problem: null,
    busy: false,
    axisKey: null,
    parts: null,
    breaks: 0,
    setUp: null,
  }),
  withComputed(({ view, axisKey, parts }) => {
    const axis = computed<Axis | null>(() => {
      const axes = view()?.axes ?? [];
      return axes.find(({ key }) => key === axisKey()) ?? axes[0] ?? null;
    });
    const cut = computed<readonly CutPart[]>(() => {
      const one = axis();
      if (!one) return [];
      const now = parts() ?? one.proposed;
      const before = view()?.categories.length ?? 0;
      const songs = now.map(({ from, to }) => one.values.slice(from, to).reduce((sum, value) => sum + value.songs, 0));
      const averageMs = view()?.averageMs ?? 0;
      const slots = slotsAWeek(now.map(({ name }, n) => ({ id: name, songs: songs[n] ?? 0, averageMs })));
      return now.map((part, n) => ({
        ...part,
        colour: bandColour(before + n),
        songs: songs[n] ?? 0,
        turnoverHours: turnoverHours(songs[n] ?? 0, slots[n] ?? 0),
      }));
    });
    return {
      axis,
      cut,
      /** The step that comes first of those not taken. */
      nextStep: computed<1 | 2 | 3 | 4>(() => {
        const now = view();
        if (!now || now.songs === 0) return 1;
        if (now.categories.length === 0) return 2;
        return now.clocks === 0 ? 3 : 4;
      }),
    };
  }),
  withMethods((store) => {
    const [api, changes, root, runs, watch] = [
      inject(Api),
      inject(Changes),
      inject(Store),
      inject(GenerateRuns),
      inject(JobWatch),
    ];
    const [views, setUps] = [new Newest(), new Newest()];
    const at = (): { stationId: string } => ({ stationId: store.stationId() });
    const load = async (): Promise<void> => {
      const isNewest = views.begin();
      try {
        const view = await api.begin(at());
        if (isNewest()) patchState(store, { view, problem: null });
      } catch (error) {
        if (isNewest()) patchState(store, { problem: messageOf(error) });
      }
    };
    /** Sends a change and reads anew; true once it is made. */
    const sent = async (sending: Promise<{ activityId: string | null; label: string }>): Promise<boolean> => {
      patchState(store, { busy: true, problem: null });
      const problem = await changes.attempt(sending);
      await load();
      root.dispatch(catalogueActions.reload());
      patchState(store, { busy: false, problem });
      return problem === null;
    };
    const now = (): readonly Part[] => store.parts() ?? store.axis()?.proposed ?? [];
    return {
      load,
      async open(stationId: string): Promise<void> {
        patchState(store, { stationId, view: null, axisKey: null, parts: null, setUp: null });
        await load();
      },
      chooseAxis: (axisKey: string): void => patchState(store, { axisKey, parts: null }),
      moveBorder: (after: number, place: number): void => patchState(store, { parts: moveBorder(now(), after, place) }),
      rename(n: number, patch: Partial<Pick<Part, 'name' | 'code'>>): void {
        patchState(store, { parts: now().map((part, at) => (at === n ? { ...part, ...patch } : part)) });
      },
      split: (n: number): void => patchState(store, { parts: splitPart(now(), n, store.axis()?.values ?? []) }),
      join: (n: number): void => patchState(store, { parts: joinPart(now(), n) }),
      async makeCategories(): Promise<boolean> {
        const axis = store.axis();
        if (!axis) return false;
        const parts = now().map(({ name, code, from, to }) => ({ name: name.trim(), code: code.trim(), from, to }));
        const done = await sent(api.beginCategories(at(), { axis: axis.key, parts }));
        if (done) patchState(store, { parts: null, axisKey: null });
        return done;
      },
      giveLengths: (durationMs: number): Promise<boolean> => sent(api.beginLengths(at(), { durationMs })),
      async propose(breaks: 0 | 1 | 2 = store.breaks()): Promise<void> {
        const isNewest = setUps.begin();
        patchState(store, { breaks, setUp: null, problem: null });
        try {
          const setUp = await api.proposedSetUp({ ...at(), breaks: String(breaks) as '0' });
          if (isNewest()) patchState(store, { setUp });
        } catch (error) {
          if (isNewest()) patchState(store, { problem: messageOf(error) });
        }
      },
      /** Makes clocks, week and rules, and tomorrow with them; the date once it is there. */
      async makeSetUp(): Promise<string | null> {
        const date = store.view()?.tomorrow;
        if (!date || !(await sent(api.beginSetUp(at(), { breaks: store.breaks() })))) return null;
        patchState(store, { busy: true });
        const job = await runs.start(date, 1, 'all');
        const ended = job && (await watch.end(job));
        patchState(store, { busy: false, problem: ended?.state === 'done' ? null : (ended?.message ?? null) });
        return ended?.state === 'done' ? date : null;
      },
    };
  }),
);

import type {
  Catalogue,
  CategoryGroup,
  CategoryRow,
  ClockRow,
  DatePlanRow,
  DrawCount,
  RuleRow,
  ShowRow,
  Station,
  Week,
} from '@fuller/contracts';
import type { AirPlan } from '@fuller/core';
import { createEntityAdapter, type EntityState } from '@ngrx/entity';
import { createActionGroup, createFeature, createReducer, createSelector, emptyProps, on, props } from '@ngrx/store';

export const catalogueActions = createActionGroup({
  source: 'Catalogue',
  events: {
    'Load stations': emptyProps(),
    'Stations loaded': props<{ stations: Station[] }>(),
    'Station opened': props<{ stationId: string }>(),
    Reload: emptyProps(),
    Loaded: props<{ catalogue: Catalogue }>(),
    Failed: props<{ message: string }>(),
  },
});

export const categoryAdapter = createEntityAdapter<CategoryRow>({ sortComparer: (a, b) => a.position - b.position });
export const clockAdapter = createEntityAdapter<ClockRow>({ sortComparer: (a, b) => a.name.localeCompare(b.name) });
export const ruleAdapter = createEntityAdapter<RuleRow>({ sortComparer: (a, b) => a.position - b.position });

export interface CatalogueState {
  readonly stations: readonly Station[];
  readonly stationId: string | null;
  readonly status: 'empty' | 'loading' | 'ready' | 'failed';
  readonly message: string;
  readonly categories: EntityState<CategoryRow>;
  readonly clocks: EntityState<ClockRow>;
  readonly rules: EntityState<RuleRow>;
  readonly groups: readonly CategoryGroup[];
  readonly clockItems: Catalogue['clockItems'];
  readonly week: Week | null;
  readonly shows: readonly ShowRow[];
  readonly dates: readonly DatePlanRow[];
  readonly draws: readonly DrawCount[];
  readonly setLists: Catalogue['setLists'];
  /** Average length of teases, milliseconds. */
  readonly teaseMs: number;
  readonly dayparts: Catalogue['dayparts'];
  readonly limits: Catalogue['limits'];
  readonly families: Catalogue['families'];
  readonly items: number;
  readonly withoutCategory: number;
}

const initial: CatalogueState = {
  stations: [],
  stationId: null,
  status: 'empty',
  message: '',
  categories: categoryAdapter.getInitialState(),
  clocks: clockAdapter.getInitialState(),
  rules: ruleAdapter.getInitialState(),
  groups: [],
  clockItems: [],
  week: null,
  shows: [],
  dates: [],
  draws: [],
  teaseMs: 0,
  setLists: [],
  dayparts: [],
  limits: { applies: false, strict: false, exemptAlbums: [], revision: 0 },
  families: [],
  items: 0,
  withoutCategory: 0,
};

/** The plan of a station with what is painted without a clock by its name and colour; set lists without their rows. */
export interface NamedPlan extends AirPlan {
  readonly sources?: readonly { readonly id: string; readonly name: string; readonly colour: string }[];
}

export const catalogueFeature = createFeature({
  name: 'catalogue',
  reducer: createReducer<CatalogueState>(
    initial,
    on(catalogueActions.stationsLoaded, (state, { stations }) => ({ ...state, stations })),
    on(catalogueActions.stationOpened, (state, { stationId }) => ({
      ...initial,
      stations: state.stations,
      stationId,
      status: 'loading' as const,
    })),
    on(catalogueActions.loaded, (state, { catalogue }) => ({
      ...state,
      status: 'ready' as const,
      message: '',
      // The catalogue may be there before the list of stations.
      stations: state.stations.some(({ id }) => id === catalogue.station.id)
        ? state.stations
        : [...state.stations, catalogue.station],
      categories: categoryAdapter.setAll(catalogue.categories, state.categories),
      clocks: clockAdapter.setAll(catalogue.clocks, state.clocks),
      rules: ruleAdapter.setAll(catalogue.rules, state.rules),
      groups: catalogue.groups,
      clockItems: catalogue.clockItems,
      week: catalogue.week,
      shows: catalogue.shows,
      dates: catalogue.dates,
      draws: catalogue.draws,
      teaseMs: catalogue.teaseMs,
      setLists: catalogue.setLists,
      dayparts: catalogue.dayparts,
      limits: catalogue.limits,
      families: catalogue.families,
      items: catalogue.items,
      withoutCategory: catalogue.withoutCategory,
    })),
    on(catalogueActions.failed, (state, { message }) => ({ ...state, status: 'failed' as const, message })),
  ),
  extraSelectors: ({
    selectStations,
    selectStationId,
    selectCategories,
    selectClocks,
    selectRules,
    selectWeek,
    selectShows,
    selectDates,
    selectSetLists,
  }) => ({
    /** All that says what plays when; null until it is there. */
    selectAirPlan: createSelector(
      selectWeek,
      selectShows,
      selectDates,
      selectClocks,
      selectCategories,
      selectSetLists,
      (week, shows, dates, clocks, categories, setLists): NamedPlan | null =>
        week && {
          sources: categoryAdapter.getSelectors().selectAll(categories),
          setLists: setLists.map(({ id, name }) => ({ id, name, rows: [], lastRowId: null })),
          week: { blocks: week.blocks, defaultClockId: week.defaultClockId },
          framing: week.framing,
          shows,
          dates,
          clocks: clockAdapter.getSelectors().selectAll(clocks),
        },
    ),
    selectStation: createSelector(
      selectStations,
      selectStationId,
      (stations, id) => stations.find((station) => station.id === id) ?? null,
    ),
    /** The categories; pools, which stand where categories can, are not among them. */
    selectAllCategories: createSelector(selectCategories, (state) =>
      categoryAdapter
        .getSelectors()
        .selectAll(state)
        .filter(({ pool }) => !pool),
    ),
    /** What a clock line can draw from: categories and pools. */
    selectSources: createSelector(selectCategories, categoryAdapter.getSelectors().selectAll),
    selectCategoryMap: createSelector(selectCategories, categoryAdapter.getSelectors().selectEntities),
    selectAllClocks: createSelector(selectClocks, clockAdapter.getSelectors().selectAll),
    selectClockMap: createSelector(selectClocks, clockAdapter.getSelectors().selectEntities),
    selectAllRules: createSelector(selectRules, ruleAdapter.getSelectors().selectAll),
    selectRuleMap: createSelector(selectRules, ruleAdapter.getSelectors().selectEntities),
  }),
});

import { computed, inject, untracked } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import type { RuleRow, RulesFile } from '@fuller/contracts';
import {
  formatLocalDateTime,
  limitRules,
  readRuleSentence,
  RULE_FORMS,
  ruleSentence,
  type Rule,
  type RulePlace,
  type RulePreset,
} from '@fuller/core';
import { patchState, signalStore, withComputed, withHooks, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { debounceTime, filter } from 'rxjs';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { changesOf } from '../shared/api/reload-on';
import { ServerEvents } from '../shared/api/server-events';
import { Notices } from '../shared/notices';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { columnsOf, moveTo, ONLY_WISH, type Column, type ColumnKey } from './columns';
import type { RuleChange } from './rule-change';
import { RuleNamesOfStation } from './rule-names';
import { RulesEngine, type Known, type Weighed } from './rules-engine';

/** Ids of what is weighed besides the rules of the board. */
const TYPED = 'typed';
/** Typing is weighed when it pauses. */
const PAUSE_MS = 60;

interface RulesState {
  /** The sentence of a new rule as it is being typed. */
  readonly typed: string;
  /** Whether it was tried to make a rule of it. */
  readonly tried: boolean;
  /** Columns of wishes a person asked for. */
  readonly wishes: number;
  readonly selectedId: string | null;
  /** Days that the back-test looks back on. */
  readonly days: number;
  readonly weighed: Readonly<Record<string, Weighed>>;
  /** The sentence being typed that was weighed last. */
  readonly typedFor: string;
  readonly known: Known;
  readonly problem: string | null;
}

/** The board of rules, the one that is being typed, and what each comes to. */
export const RulesStore = signalStore(
  withState<RulesState>({
    typed: '',
    tried: false,
    wishes: 3,
    selectedId: null,
    days: 7,
    weighed: {},
    typedFor: '',
    known: { items: new Map(), values: new Map() },
    problem: null,
  }),
  withProps(() => {
    const store = inject(Store);
    return {
      _rules: store.selectSignal(catalogueFeature.selectAllRules),
      _stationId: store.selectSignal(catalogueFeature.selectStationId),
      _station: store.selectSignal(catalogueFeature.selectStation),
      limits: store.selectSignal(catalogueFeature.selectLimits),
    };
  }),
  withComputed(({ typed }, words = inject(RuleNamesOfStation)) => ({
    _read: computed(() => readRuleSentence(typed(), words.names())),
    _names: computed(() => words.names()),
  })),
  withComputed(
    (
      { _read, _names, _rules, _station, typed, typedFor, tried, wishes, selectedId, weighed, limits, known },
      words = inject(RuleNamesOfStation),
    ) => ({
      /** Why the sentence is no rule, once it was tried to make one of it. */
      refused: computed(() => {
        const read = _read();
        return tried() && !read.ok ? read.why : null;
      }),
      /** The tag that the sentence being typed is about. */
      typedTag: computed(() => {
        const read = _read();
        return read.ok ? read.parts.tag : '';
      }),
      reading: computed(() => {
        const read = _read();
        return read.ok ? `Understood: ${ruleSentence(read.parts, _names())}.` : '';
      }),
      /** What the sentence being typed comes to; null until this very sentence has been weighed. */
      typedWeighed: computed(() => (_read().ok && typedFor() === typed() ? (weighed()[TYPED] ?? null) : null)),
      columns: computed<Column[]>(() => columnsOf(_rules(), wishes())),
      /** What a person calls a value that a rule is short of. */
      valueName: computed(() => (tag: string, value: string | null) => {
        if (value === null) return '';
        return known().values.get(`${tag} ${value}`) ?? words.valueWords(tag, value);
      }),
      selected: computed(() => _rules().find(({ id }) => id === selectedId()) ?? null),
      /** Rules that a rule is held against, those of the statutory limits among them. */
      applying: computed<Rule[]>(() => [...(limits().applies ? limitRules(limits().strict) : []), ..._rules()]),
    }),
  ),
  withMethods((store) => {
    const [api, changes, notices, engine] = [inject(Api), inject(Changes), inject(Notices), inject(RulesEngine)];
    const newest = new Newest();
    const save = (rule: RuleRow, change: RuleChange): void => {
      const station = store._stationId();
      if (station)
        void changes.run(api.patchRule({ stationId: station, id: rule.id }, { revision: rule.revision, ...change }));
    };
    const weigh = async (rule: Rule): Promise<Weighed | null> => {
      const station = store._station();
      if (!station) return null;
      return engine.weigh(station.id, station.today, rule, store.applying(), store.days()).catch((error: unknown) => {
        patchState(store, { problem: error instanceof Error ? error.message : String(error) });
        return null;
      });
    };
    const put = (id: string, weighed: Weighed | null): void => {
      if (weighed) patchState(store, (state) => ({ weighed: { ...state.weighed, [id]: weighed }, problem: null }));
    };
    const add = async (rule: Omit<Rule, 'id'>): Promise<boolean> => {
      const station = store._stationId();
      return station !== null && (await changes.run(api.createRule({ stationId: station }, rule))) !== null;
    };
    return {
      save,
      /** When a play began, on the station's clock: `11-23 09:30`. */
      timeText: (startMs: number): string =>
        formatLocalDateTime(startMs, store._station()?.timeZone ?? 'UTC')
          .slice(5, 16)
          .replace('T', ' '),
      type(typed: string): void {
        patchState(store, { typed });
      },
      select(selectedId: string | null): void {
        patchState(store, { selectedId });
      },
      lookBack(days: number): void {
        patchState(store, { days });
      },
      addColumn(): void {
        patchState(store, ({ wishes }) => ({ wishes: Math.max(wishes, store.columns().length - 2) + 1 }));
      },
      /** Makes a rule of what was typed; true when it was made. */
      async create(): Promise<boolean> {
        const read = store._read();
        patchState(store, { tried: !read.ok });
        if (!read.ok) return false;
        const created = await add(asNew(read.parts));
        if (created) patchState(store, { typed: '' });
        return created;
      },
      remove(rule: RuleRow): void {
        const station = store._stationId();
        if (station) void changes.run(api.deleteRule({ stationId: station, id: rule.id }));
      },
      move(rule: RuleRow, to: ColumnKey): void {
        const change = moveTo(rule, to);
        if (change === 'only a wish') notices.say(ONLY_WISH);
        else if (change) save(rule, change);
      },
      /** The same rule for one place alone. */
      copyTo(rule: RuleRow, place: RulePlace): Promise<boolean> {
        const { id, revision, position, ...fields } = rule;
        void [id, revision, position];
        return add({ ...fields, places: [place], exceptions: [] });
      },
      copyRules(kind: RulePlace['kind'], from: string, to: string): void {
        const station = store._stationId();
        if (station) void changes.run(api.copyRules({ stationId: station }, { kind, from, to }));
      },
      applyLimits(change: Partial<ReturnType<typeof store.limits>>): void {
        const station = store._stationId();
        if (station) void changes.run(api.setLimits({ stationId: station }, { ...store.limits(), ...change }));
      },
      /** Takes rules of a file in; why they were refused, null when they were taken. */
      async take(file: RulesFile, replace: boolean): Promise<string | null> {
        const station = store._stationId();
        return station ? changes.attempt(api.takeRulesFile({ stationId: station }, { file, replace })) : null;
      },
      /** Weighs what is being typed. */
      async weighTyped(): Promise<void> {
        const [read, sentence] = [store._read(), store.typed()];
        const isNewest = newest.begin();
        if (!read.ok) return;
        const weighed = await weigh({ ...asNew(read.parts), id: TYPED });
        if (!isNewest()) return;
        put(TYPED, weighed);
        patchState(store, { typedFor: sentence });
      },
      async weighAll(): Promise<void> {
        const station = store._station();
        if (!station) return;
        for (const rule of store.applying()) put(rule.id, await weigh(rule));
        const known = await engine.known(station.id, station.today).catch(() => null);
        if (known) patchState(store, { known });
      },
      /** What each rule of a preset would come to here. */
      async weighPreset(preset: RulePreset): Promise<(Weighed | null)[]> {
        const found: (Weighed | null)[] = [];
        for (const rule of presetRules(preset, store._names())) found.push(await weigh(rule));
        return found;
      },
      forget: () => engine.forget(),
    };
  }),
  withHooks({
    onInit(store) {
      toObservable(store.typed)
        .pipe(debounceTime(PAUSE_MS), takeUntilDestroyed())
        .subscribe(() => void store.weighTyped());
      toObservable(computed(() => [store.applying(), store.days(), store._station()] as const))
        .pipe(debounceTime(PAUSE_MS), takeUntilDestroyed())
        .subscribe(() => untracked(() => void store.weighAll()));
      // A change of nothing but rules comes with the catalogue; what they are held against stays.
      changesOf(inject(ServerEvents), ['catalogue', 'library', 'logs'])
        .pipe(
          filter((event) => !(event && event.type === 'changed' && event.what.includes('only rules'))),
          debounceTime(PAUSE_MS),
          takeUntilDestroyed(),
        )
        .subscribe(() => {
          store.forget();
          void store.weighAll();
        });
    },
  }),
);

/** A rule as its sentence asks it, a must where it can be one. */
function asNew(parts: Omit<Rule, 'id' | 'strength' | 'rank' | 'resting' | 'note' | 'places'>): Omit<Rule, 'id'> {
  const hard = RULE_FORMS[parts.shape].strengths.includes('hard');
  return {
    ...parts,
    strength: hard ? 'hard' : 'soft',
    rank: hard ? 0 : 1,
    resting: false,
    note: '',
    places: [],
  };
}

function presetRules(preset: RulePreset, names: Parameters<typeof readRuleSentence>[1]): Rule[] {
  return preset.rules.flatMap(({ sentence, rank }, at) => {
    const read = readRuleSentence(sentence, names);
    if (!read.ok) return [];
    return [
      { ...asNew(read.parts), id: `preset-${at}`, rank, strength: rank === 0 ? ('hard' as const) : ('soft' as const) },
    ];
  });
}

/** A preset as a file of rules. */
export function presetFile(preset: RulePreset): RulesFile {
  return {
    format: 'fuller-rules',
    version: 1,
    rules: preset.rules.map(({ sentence, rank }) => ({
      sentence,
      strength: rank === 0 ? 'must' : 'wish',
      ...(rank > 0 && { rank }),
      resting: false,
      note: '',
      stations: [],
      places: [],
      exceptions: [],
    })),
  };
}

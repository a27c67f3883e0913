import { computed, inject } from '@angular/core';
import type { RuleRow } from '@fuller/contracts';
import { readRuleSentence, RULE_FORMS, ruleSentence, type RuleStrength } from '@fuller/core';
import { patchState, signalStore, withComputed, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Notices } from '../shared/notices';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import type { RuleChange } from './rule-card';
import { RuleNamesOfStation } from './rule-names';

export type ColumnKey = 'must' | 'wish' | 'resting';

/** A column of the board. */
export interface Column {
  readonly key: ColumnKey;
  readonly name: string;
  readonly words: string;
  readonly none: string;
  readonly rules: readonly RuleRow[];
}

const MUST = { strength: 'hard', rank: 0 } as const;
const WISH = { strength: 'soft', rank: 1 } as const;
const ONLY_WISH =
  'At least so many an hour can be a wish only: with too few to choose from, every slot would stay open.';

function columnOf({ strength, resting }: RuleRow): ColumnKey {
  if (resting) return 'resting';
  return strength === 'hard' ? 'must' : 'wish';
}

/** From column to column, past the musts where a rule can be a wish alone. */
export function nextColumn(rule: RuleRow): ColumnKey {
  const at = columnOf(rule);
  if (at === 'must') return 'wish';
  if (at === 'wish') return 'resting';
  return RULE_FORMS[rule.shape].strengths.includes('hard') ? 'must' : 'wish';
}

interface RulesState {
  /** The sentence of a new rule as it is being typed. */
  readonly typed: string;
  /** Whether it was tried to make a rule of it. */
  readonly tried: boolean;
}

/** The board of rules, and the one that is being typed. */
export const RulesStore = signalStore(
  withState<RulesState>({ typed: '', tried: false }),
  withProps(() => ({ _rules: inject(Store).selectSignal(catalogueFeature.selectAllRules) })),
  withComputed(({ typed }, words = inject(RuleNamesOfStation)) => ({
    _read: computed(() => readRuleSentence(typed(), words.names())),
    _names: computed(() => words.names()),
  })),
  withComputed(({ _read, _names, _rules, tried }) => ({
    /** Why the sentence is no rule, once it was tried to make one of it. */
    refused: computed(() => {
      const read = _read();
      return tried() && !read.ok ? read.why : null;
    }),
    reading: computed(() => {
      const read = _read();
      return read.ok ? `Understood: ${ruleSentence(read.parts, _names())}.` : '';
    }),
    columns: computed<Column[]>(() => {
      const of = (key: ColumnKey): RuleRow[] => _rules().filter((rule) => columnOf(rule) === key);
      return [
        {
          key: 'must',
          name: 'Must',
          words: 'never broken',
          none: 'No rule yet. Few rules at first: artist and title are enough to begin.',
          rules: of('must'),
        },
        {
          key: 'wish',
          name: 'Wish',
          words: 'kept where possible',
          none: 'Drag a rule here, or press m on it, to make it a wish.',
          rules: of('wish'),
        },
        {
          key: 'resting',
          name: 'Resting',
          words: 'kept, but not applied',
          none: 'Drag a rule here, or press m on it, to let it rest.',
          rules: of('resting'),
        },
      ];
    }),
  })),
  withMethods((store) => {
    const [api, changes, notices] = [inject(Api), inject(Changes), inject(Notices)];
    const stationId = inject(Store).selectSignal(catalogueFeature.selectStationId);
    const save = (rule: RuleRow, change: RuleChange): void => {
      const station = stationId();
      if (station)
        void changes.run(api.patchRule({ stationId: station, id: rule.id }, { revision: rule.revision, ...change }));
    };
    return {
      save,
      type(typed: string): void {
        patchState(store, { typed });
      },
      /** Makes a rule of what was typed; true when it was made. */
      async create(): Promise<boolean> {
        const [read, station] = [store._read(), stationId()];
        patchState(store, { tried: !read.ok });
        if (!read.ok || !station) return false;
        // A shape that is a wish alone is made as one.
        const strength = RULE_FORMS[read.parts.shape].strengths.includes('hard') ? {} : WISH;
        const created = await changes.run(api.createRule({ stationId: station }, { ...read.parts, ...strength }));
        if (created) patchState(store, { typed: '' });
        return created !== null;
      },
      remove(rule: RuleRow): void {
        const station = stationId();
        if (station) void changes.run(api.deleteRule({ stationId: station, id: rule.id }));
      },
      move(rule: RuleRow, to: ColumnKey): void {
        if (to === columnOf(rule)) return;
        if (to === 'resting') return save(rule, { resting: true });
        const strength: RuleStrength = to === 'must' ? 'hard' : 'soft';
        if (!RULE_FORMS[rule.shape].strengths.includes(strength)) return notices.say(ONLY_WISH);
        save(rule, { resting: false, ...(strength === 'hard' ? MUST : WISH) });
      },
    };
  }),
);

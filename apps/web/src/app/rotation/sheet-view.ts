import type { CategoryRow, RotationRow, RuleRow } from '@fuller/contracts';
import {
  formatSpan,
  freeOnAverage,
  freeTightness,
  scaledSlots,
  sharedRates,
  titleTightness,
  turnoverOf,
  wishedNumbers,
  type Tightness,
  type Turnover,
  type TurnoverWish,
} from '@fuller/core';

/** How one separation sits with a category. */
export interface RuleFit {
  readonly ruleId: string;
  readonly tightness: Tightness;
  readonly words: string;
  /** The same for a narrow column. */
  readonly short: string;
}

/** A category of the sheet as it is shown: as it is, or as it would be under a wish. */
export interface SheetView {
  readonly category: CategoryRow;
  readonly row: RotationRow | null;
  readonly items: number;
  readonly slotsPerWeek: number;
  readonly turn: Turnover | null;
  readonly fits: readonly RuleFit[];
  /** The tightest of them. */
  readonly tightest: RuleFit | null;
  readonly wished: boolean;
}

const ORDER: readonly Tightness[] = ['easy', 'tight', 'too tight'];

/** A category's numbers, each following from the others where one is wished for. */
export function sheetView(
  category: CategoryRow,
  row: RotationRow | undefined,
  rules: Readonly<Record<string, RuleRow | undefined>>,
  wish: TurnoverWish | undefined,
): SheetView {
  if (!row)
    return {
      category,
      row: null,
      items: category.items,
      slotsPerWeek: category.slotsPerWeek,
      turn: null,
      fits: [],
      tightest: null,
      wished: false,
    };
  const now = { items: row.canPlay, slotsPerWeek: row.slots.length };
  const { items, slotsPerWeek } = wish ? wishedNumbers(now, wish) : now;
  const slots = slotsPerWeek === row.slots.length ? row.slots : scaledSlots(row.slots, slotsPerWeek);
  const turn = turnoverOf(slots, items);
  const fits = turn ? row.rules.flatMap((rule) => fitOf(rule, rules[rule.ruleId], turn, row) ?? []) : [];
  const tightest = fits.reduce<RuleFit | null>(
    (worst, fit) => (worst === null || ORDER.indexOf(fit.tightness) > ORDER.indexOf(worst.tightness) ? fit : worst),
    null,
  );
  return { category, row, items, slotsPerWeek, turn, fits, tightest, wished: wish !== undefined };
}

function fitOf(
  rule: RotationRow['rules'][number],
  known: RuleRow | undefined,
  turn: Turnover,
  row: RotationRow,
): RuleFit | null {
  if (!known) return null;
  const span = formatSpan(rule.seconds);
  if (known.tag === 'title') {
    const tightness = titleTightness(turn, rule.seconds);
    const says = { easy: 'is always kept', tight: 'moves some plays', 'too tight': 'cannot be kept' }[tightness];
    return { ruleId: rule.ruleId, tightness, words: `title ${span} ${says}`, short: `title ${says}` };
  }
  const scale = row.slots.length > 0 ? turn.slotsPerWeek / row.slots.length : 1;
  const share = row.canPlay > 0 ? turn.items / row.canPlay : 1;
  const free = freeOnAverage(sharedRates(rule, scale, row.averageMs / 1000), rule.seconds) * share;
  return {
    ruleId: rule.ruleId,
    tightness: freeTightness(free, turn.items),
    words: `${known.tag} ${span} leaves ${Math.round(free)} of ${turn.items} free`,
    short: `${known.tag} leaves ${Math.round(free)} of ${turn.items}`,
  };
}

/** Seconds as a rest is told: `42 min`, `6.5 h`, `4.2 days`. */
export function restWords(seconds: number): string {
  if (seconds < 100 * 60) return `${Math.round(seconds / 60)} min`;
  if (seconds < 72 * 3600) return `${(seconds / 3600).toFixed(1)} h`;
  return `${(seconds / 86_400).toFixed(1)} d`;
}

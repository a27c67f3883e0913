import type { RuleRow } from '@fuller/contracts';
import { LAST_RANK, RULE_FORMS } from '@fuller/core';
import type { RuleChange } from './rule-change';

/** A column of the board: 0 holds the musts, a number from 1 the wishes of that rank. */
export type ColumnKey = number | 'resting';

/** A column of the board. */
export interface Column {
  readonly key: ColumnKey;
  readonly name: string;
  readonly words: string;
  readonly none: string;
  readonly rules: readonly RuleRow[];
}

/** Said of a shape that cannot be a must. */
export const ONLY_WISH =
  'At least so many an hour can be a wish only: with too few to choose from, every slot would stay open.';

const NAMES = ['Must', 'First wish', 'Second wish', 'Third wish'];

function columnOf({ strength, rank, resting }: RuleRow): ColumnKey {
  if (resting) return 'resting';
  return strength === 'hard' ? 0 : rank;
}

/** What a column is called. */
export function columnName(key: ColumnKey): string {
  return key === 'resting' ? 'Resting' : (NAMES[key] ?? `Wish ${key}`);
}

/** The columns of the board: musts, so many ranks of wishes and as many as rules have, and what rests. */
export function columnsOf(rules: readonly RuleRow[], wishes: number): Column[] {
  const ranks = Math.min(
    LAST_RANK,
    Math.max(wishes, ...rules.filter(({ resting }) => !resting).map(({ rank }) => rank)),
  );
  const keys: ColumnKey[] = [...Array.from({ length: ranks + 1 }, (_, rank) => rank), 'resting'];
  return keys.map((key) => ({
    key,
    name: columnName(key),
    words: key === 0 ? 'never broken' : key === 'resting' ? 'not applied' : key === 1 ? 'given up last' : '',
    none:
      key === 0 && rules.length === 0
        ? 'No rule yet. Few rules at first: artist and title are enough to begin.'
        : 'Drag a rule here, or press m on it.',
    rules: rules.filter((rule) => columnOf(rule) === key),
  }));
}

/** What changes when a rule moves to a column; null where it is there already. */
export function moveTo(rule: RuleRow, to: ColumnKey): RuleChange | null | 'only a wish' {
  if (to === columnOf(rule)) return null;
  if (to === 'resting') return { resting: true };
  if (to === 0 && !RULE_FORMS[rule.shape].strengths.includes('hard')) return 'only a wish';
  return { resting: false, strength: to === 0 ? 'hard' : 'soft', rank: to };
}

/** The column so many steps on from a rule's own, round the board, past the musts where a rule can be a wish alone. */
export function nextColumn(rule: RuleRow, columns: readonly Column[], step: 1 | -1): ColumnKey {
  const keys = columns.map(({ key }) => key);
  let at = keys.indexOf(columnOf(rule));
  do at = (at + step + keys.length) % keys.length;
  while (moveTo(rule, keys[at]!) === 'only a wish');
  return keys[at]!;
}

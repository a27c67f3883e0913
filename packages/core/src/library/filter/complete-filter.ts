import { lastOf, lookUpIn } from '../../values/look-up.js';
import { foldText } from '../../text/fold.js';
import { ITEM_KINDS } from '../item.js';
import { FILTER_FIELDS, type FilterVocabulary } from './filter.js';
import { familyName } from './parse-filter.js';
import { quoted, tokensOf } from './tokens.js';

/** A way to go on with a filter that is being typed. */
export interface Completion {
  readonly label: string;
  readonly says: string;
  /** The whole text with it taken in. */
  readonly text: string;
  readonly caret: number;
}

const MOST = 9;
/** What is offered where anything may stand in a field. */
const EXAMPLES: Readonly<Record<string, readonly string[]>> = {
  rested: ['24h', '7d', '28d', 'never'],
  file: ['any', 'none'],
  approved: ['any', 'none'],
  intro: ['none'],
  outro: ['none'],
};

/** What could stand at the caret: fields that begin so, or values of the field in hand. */
export function completionsOf(text: string, caret: number, vocabulary: FilterVocabulary): Completion[] {
  const token = tokensOf(text.slice(0, caret)).at(-1);
  if (!token || token.end < caret) return [];
  const last = lastOf(token.values);
  if (token.field === null) {
    const from = token.at + (token.not ? 1 : 0);
    return fieldsOf(vocabulary)
      .filter(({ name }) => name.startsWith(foldText(last.text)))
      .slice(0, MOST)
      .map(({ name, says }) => taken(text, from, caret, `${name}:`, `${name}:`, says));
  }
  const wanted = foldText(last.text);
  return valuesOf(foldText(token.field), vocabulary)
    .filter(({ value, says }) => foldText(value).startsWith(wanted) || foldText(says).startsWith(wanted))
    .filter(({ value }) => value !== last.text)
    .slice(0, MOST)
    .map(({ value, says }) => taken(text, last.at, caret, quoted(value), value, says));
}

function taken(text: string, from: number, to: number, insert: string, label: string, says: string): Completion {
  return { label, says, text: text.slice(0, from) + insert + text.slice(to), caret: from + insert.length };
}

function fieldsOf({ families }: FilterVocabulary): { name: string; says: string }[] {
  const own = Object.entries(FILTER_FIELDS).map(([name, { says }]) => ({ name, says: says as string }));
  const tags = Object.entries(families).map(([family, values]) => ({
    name: familyName(family),
    says: values.slice(0, 5).join(', '),
  }));
  return [...own, ...tags];
}

function valuesOf(field: string, { categories, families }: FilterVocabulary): { value: string; says: string }[] {
  if (field === 'category')
    return [
      ...categories.map(({ code, name }) => ({ value: code, says: name })),
      { value: 'none', says: 'in no category' },
    ];
  if (field === 'kind') return ITEM_KINDS.map((value) => ({ value, says: '' }));
  if (EXAMPLES[field]) return EXAMPLES[field].map((value) => ({ value, says: '' }));
  const family = Object.keys(families).find((one) => familyName(one) === field);
  return family === undefined ? [] : [...lookUpIn(families, family), 'none'].map((value) => ({ value, says: '' }));
}

/** The text with one field's values put in place of those it had; without the field where there are none. */
export function withField(text: string, field: string, values: readonly string[]): string {
  const others = tokensOf(text).filter((token) => token.not || token.field === null || foldText(token.field) !== field);
  const kept = others.map(({ at, end }) => text.slice(at, end));
  return [...kept, ...(values.length > 0 ? [`${field}:${values.map(quoted).join(',')}`] : [])].join(' ');
}

/** The values one field has in the text. */
export function valuesInField(text: string, field: string): string[] {
  return tokensOf(text)
    .filter((token) => !token.not && token.field !== null && foldText(token.field) === field)
    .flatMap((token) => token.values.map((value) => value.text));
}

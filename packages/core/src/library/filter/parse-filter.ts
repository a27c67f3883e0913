import { elementAt, lookUpIn } from '../../values/look-up.js';
import { parseDuration } from '../../time/duration.js';
import { parseSpan } from '../../time/span.js';
import { foldText } from '../../text/fold.js';
import { ITEM_KINDS } from '../item.js';
import {
  FILTER_FIELDS,
  type Filter,
  type FilterFault,
  type FilterField,
  type FilterTest,
  type FilterVocabulary,
  type LengthField,
  type Range,
  type WordsField,
} from './filter.js';
import { tokensOf, type Token, type TokenValue } from './tokens.js';

/** A filter that was read, or where and why it cannot be. */
export type ParsedFilter =
  { readonly ok: true; readonly filter: Filter } | { readonly ok: false; readonly fault: FilterFault };

class Fault extends Error {
  constructor(
    readonly where: { readonly at: number; readonly end: number },
    why: string,
  ) {
    super(why);
  }
}

/**
 * Reads a filter: words, and fields with values such as `year:1990..1999 tempo:4,5 -kind:sweeper rested:7d`. Everything must hold;
 * of values between commas one is enough; a minus takes out.
 */
export function parseFilter(text: string, vocabulary: FilterVocabulary): ParsedFilter {
  try {
    const filter = tokensOf(text).flatMap((token) => {
      const test = testOf(token, vocabulary);
      return test ? [{ not: token.not, test }] : [];
    });
    return { ok: true, filter };
  } catch (error) {
    if (!(error instanceof Fault)) throw error;
    const { at, end } = error.where;
    return { ok: false, fault: { at, length: Math.max(1, end - at), why: error.message } };
  }
}

/** The folded words of a text, as search compares them. */
export function searchWords(text: string): string[] {
  return foldText(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
}

/** The name under which a tag family is asked for. */
export function familyName(family: string): string {
  return foldText(family).replace(/[^\p{L}\p{N}]+/gu, '-');
}

function testOf(token: Token, vocabulary: FilterVocabulary): FilterTest | null {
  if (token.field === null) {
    const words = searchWords(elementAt(token.values, 0).text);
    return words.length > 0 ? { on: 'words', field: 'any', any: [words], none: false } : null;
  }
  const name = foldText(token.field);
  if (Object.hasOwn(FILTER_FIELDS, name)) return fieldTest(name as FilterField, token, vocabulary);
  const family = Object.keys(vocabulary.families).find((one) => familyName(one) === name);
  if (family !== undefined) return tagTest(family, token, vocabulary);
  throw new Fault(
    { at: token.at, end: token.at + token.field.length + (token.not ? 2 : 1) },
    `There is no field “${token.field}”. For words with a colon in them write "${token.field}:…" in quotation marks.`,
  );
}

function fieldTest(name: FilterField, token: Token, vocabulary: FilterVocabulary): FilterTest {
  const isNone = (value: TokenValue): boolean => foldText(value.text) === (name === 'rested' ? 'never' : 'none');
  const none = token.values.some(isNone);
  const values = token.values.filter((value) => !isNone(value));
  for (const value of values)
    if (value.text.trim() === '') throw new Fault(value, `Say which ${name}: ${FILTER_FIELDS[name].says}.`);
  switch (FILTER_FIELDS[name].nature) {
    case 'words':
      return { on: 'words', field: name as WordsField, any: values.map((value) => wordsOf(value)), none };
    case 'code':
      return { on: 'cart', any: values.map((value) => asciiLower(value.text)), none };
    case 'number':
      return {
        on: 'year',
        any: values.map((value) => rangeOf(value, wholeNumber, 'a year like 1994 or 1990..1999', 0)),
        none,
      };
    case 'length':
      return {
        on: 'length',
        field: name as LengthField,
        any: values.map((value) => rangeOf(value, parseDuration, 'a length like 3:30 or 3:00..4:00', 999)),
        none,
      };
    case 'rested':
      return { on: 'rested', any: values.map(restOf), none };
    case 'presence':
      for (const value of values)
        if (foldText(value.text) !== 'any') throw new Fault(value, `Write ${name}:any or ${name}:none.`);
      return { on: name as 'file' | 'approved', any: [], none };
    case 'choice':
      if (name === 'category')
        return { on: 'category', any: values.map((value) => categoryOf(value, vocabulary)), none };
      if (none) throw new Fault(token, 'Every item has a kind.');
      return { on: 'kind', any: values.map(kindOf), none };
  }
}

function wordsOf(value: TokenValue): string[] {
  const words = searchWords(value.text);
  if (words.length === 0) throw new Fault(value, 'There is no letter or figure to look for.');
  return words;
}

function tagTest(family: string, token: Token, { families }: FilterVocabulary): FilterTest {
  const known = lookUpIn(families, family);
  const isNone = (value: TokenValue): boolean => foldText(value.text) === 'none';
  const any = token.values
    .filter((value) => !isNone(value))
    .flatMap((value) => {
      const same = known.filter((one) => foldText(one) === foldText(value.text));
      if (same.length === 0)
        throw new Fault(value, `There is no ${family} “${value.text}”; there is ${listed(known)}.`);
      return same;
    });
  return { on: 'tag', family, any, none: token.values.some(isNone) };
}

function categoryOf(value: TokenValue, { categories }: FilterVocabulary): string {
  const wanted = foldText(value.text);
  const found = categories.find(({ code, name }) => foldText(code) === wanted || foldText(name) === wanted);
  if (!found)
    throw new Fault(
      value,
      `There is no category “${value.text}”; there is ${listed(categories.map(({ code }) => code))}.`,
    );
  return found.id;
}

function kindOf(value: TokenValue): (typeof ITEM_KINDS)[number] {
  const found = ITEM_KINDS.find((kind) => foldText(kind) === foldText(value.text));
  if (!found) throw new Fault(value, `There is no kind “${value.text}”; there is ${listed(ITEM_KINDS)}.`);
  return found;
}

function listed(values: readonly string[]): string {
  const shown = values.slice(0, 8).join(', ');
  return values.length > 8 ? `${shown} and more` : shown || 'none yet';
}

/** `within` is how much further a limit reaches than it is written, for units smaller than what is shown. */
function rangeOf(value: TokenValue, read: (text: string) => number | null, like: string, within: number): Range {
  const [low = '', high] = value.text.split('..');
  const limit = (text: string): number | null => {
    if (text === '') return null;
    const limitValue = read(text);
    if (limitValue === null || !Number.isSafeInteger(limitValue))
      throw new Fault(value, `“${value.text}” is not ${like}.`);
    return limitValue;
  };
  const from = limit(low);
  const to = high === undefined ? from : limit(high);
  if ((from === null && to === null) || value.text.split('..').length > 2)
    throw new Fault(value, `“${value.text}” is not ${like}.`);
  if (from !== null && to !== null && from > to) throw new Fault(value, `${low} comes after ${high ?? low}.`);
  return { from, to: to === null ? null : to + within };
}

/** A rest alone means that long or longer. */
function restOf(value: TokenValue): Range {
  const text = value.text.includes('..') ? value.text : `${value.text}..`;
  return rangeOf(
    { ...value, text },
    (part) => (/[a-z]/i.test(part) ? parseSpan(part) : null),
    'a time like 7d, 12h or 90min',
    0,
  );
}

function wholeNumber(text: string): number | null {
  return /^\d{1,9}$/.test(text) ? Number(text) : null;
}

/** Carts are compared without regard to the case of plain letters. */
export function asciiLower(text: string): string {
  return text.replace(/[A-Z]/g, (letter) => letter.toLowerCase());
}

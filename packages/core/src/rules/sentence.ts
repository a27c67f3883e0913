import { formatSpan } from '../time/span.js';
import { readSeparation } from './apart/apart-form.js';
import type { AmountRead, RuleRead, SentencePart } from './form.js';
import { RULE_FORMS } from './forms.js';
import type { Rule, RuleParts, RuleShape } from './rule.js';
import { findMentions, subjectText, tagName, valueName, type RuleNames } from './rule-words.js';

/** A rule as a person reads it: “Keep the same artist at least 90 min apart, 60 min in Gold”. */
export function ruleSentence(rule: RuleParts, names: RuleNames): string {
  const form = RULE_FORMS[rule.shape];
  const exceptions = rule.exceptions
    .map((place) => `, ${form.amountText(place.amount)} in ${names.placeName(place)}`)
    .join('');
  const words = form.pieces.map((piece) => ('words' in piece ? piece.words : partText(piece.part, rule, names)));
  return `${words.join(' ')}${exceptions}`;
}

/** A part of a rule's sentence, as it stands in it. */
export function partText(part: SentencePart, rule: RuleParts, names: RuleNames): string {
  const valueOf = (value: string | null): string =>
    `${tagName(rule.tag, names)} ${valueName(rule.tag, value ?? '', names)}`;
  switch (part) {
    case 'subject':
      return subjectText(rule, names);
    case 'amount':
      return RULE_FORMS[rule.shape].amountPart(rule.amount);
    case 'window':
      return rule.windowSeconds === null ? 'an hour' : `in ${formatSpan(rule.windowSeconds)}`;
    case 'first':
      return valueOf(rule.value);
    case 'next':
      return valueOf(rule.followedBy);
  }
}

/** The stretch a count is for, as typed: `an hour` of the clock (null), or any `3 h`. */
export function readRuleWindow(
  text: string,
): { readonly ok: true; readonly windowSeconds: number | null } | { readonly ok: false; readonly why: string } {
  const plain = text.trim().replace(/^(?:in|within|every|per)\s+/i, '');
  if (/^(?:an?|the|one|each)?\s*(?:clock )?hour$/i.test(plain)) return { ok: true, windowSeconds: null };
  const read = readSeparation(plain);
  return read.ok ? { ok: true, windowSeconds: read.seconds } : read;
}

/** Shapes whose words tell them apart; a text that is of none of these is read as a separation. */
const BY_WORDS: readonly RuleShape[] = ['across', 'handOff', 'streak', 'otherHour', 'atMost', 'atLeast'];

/**
 * The rule in a sentence such as “keep the same artist at least 90 min apart”, “at most 4 slow an hour” or “no fast
 * after slow”; otherwise what was not understood.
 */
export function readRuleSentence(text: string, names: RuleNames): RuleRead {
  const { found, rest } = findMentions(text, names);
  for (const shape of BY_WORDS) {
    const read = RULE_FORMS[shape].read({ mentions: found, rest });
    if (read) return read;
  }
  return RULE_FORMS.apart.read({ mentions: found, rest })!;
}

/** Why a rule does not hold together, naming the field; null when it does. */
export function faultOfRule(
  rule: RuleParts & Pick<Rule, 'strength' | 'rank' | 'stationIds'>,
): { readonly field: string; readonly why: string } | null {
  const { amount, strengths } = RULE_FORMS[rule.shape];
  if (!strengths.includes(rule.strength)) return { field: 'strength', why: 'must be soft for a rule of this shape' };
  if ((rule.strength === 'soft') !== rule.rank > 0)
    return { field: 'rank', why: 'is 1 or more for a soft rule and 0 for a hard one' };
  if ((rule.shape === 'handOff') !== (rule.followedBy !== null))
    return { field: 'followedBy', why: 'goes with a hand-off, and with no other shape' };
  if (rule.shape === 'handOff' && rule.value === null)
    return { field: 'value', why: 'is missing; a hand-off is between two values' };
  if (rule.stationIds?.length && rule.shape !== 'across')
    return { field: 'stationIds', why: 'goes with a rule across stations alone' };
  if (rule.windowSeconds !== null && rule.shape !== 'atMost')
    return { field: 'windowSeconds', why: 'goes with at most alone' };
  const amounts = [
    { field: 'amount', one: rule.amount },
    ...rule.exceptions.map(({ amount: one }) => ({ field: 'exceptions', one })),
  ];
  for (const { field, one } of amounts) {
    if (!amount) {
      if (one !== 0) return { field, why: 'must be 0; a hand-off has no amount' };
    } else if (one < amount.least || one > amount.most)
      return { field, why: `must be ${amount.least} to ${amount.most} ${amount.unit}` };
  }
  return null;
}

/** An amount of a rule of some shape, as typed: `2 h 30` of a separation, `4` of a count. */
export function readRuleAmount(shape: RuleShape, text: string): AmountRead {
  return RULE_FORMS[shape].readAmount(text.trim());
}

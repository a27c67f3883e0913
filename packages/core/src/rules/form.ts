import { elementAt } from '../values/look-up.js';
import type { Mention } from './rule-words.js';
import type { Rule, RuleParts, RuleStrength } from './rule.js';
import type { InstanceRule } from './shapes.js';

/** What a sentence asks, or why it is not understood. */
export type RuleRead = { readonly ok: true; readonly parts: RuleParts } | { readonly ok: false; readonly why: string };

/** A text with the tags and values it names taken out. */
export interface RuleText {
  readonly mentions: readonly Mention[];
  /** Folded. */
  readonly rest: string;
}

/** An amount of a rule, or why a text is none. */
export type AmountRead = { readonly ok: true; readonly amount: number } | { readonly ok: false; readonly why: string };

/** What an amount of a rule may be. */
export interface AmountRange {
  readonly unit: 'seconds' | 'plays' | 'days';
  readonly least: number;
  readonly most: number;
}

/** A part of a sentence that a person can change in place. */
export type SentencePart = 'subject' | 'amount' | 'window' | 'next' | 'first';
/** A word of a sentence, or a part of it. */
export type SentencePiece = { readonly words: string } | { readonly part: SentencePart };

/** The pieces of a sentence such as `Keep {subject} at least {amount} apart`. */
export function piecesOf(template: string): SentencePiece[] {
  return template
    .split(/\{(\w+)\}/)
    .map((text, at): SentencePiece => (at % 2 === 1 ? { part: text as SentencePart } : { words: text.trim() }))
    .filter((piece) => 'part' in piece || piece.words !== '');
}

/** A shape as people meet it: its sentence both ways, its amounts, and how the engine is told of it. */
export interface RuleForm {
  /** Null where the shape has no amount. */
  readonly amount: AmountRange | null;
  readonly strengths: readonly RuleStrength[];
  /** The sentence as words and parts, in order. */
  readonly pieces: readonly SentencePiece[];
  /** The amount as it stands in the sentence. */
  amountPart(amount: number): string;
  /** Null where the text is of another shape. */
  read(text: RuleText): RuleRead | null;
  /** An amount in words. */
  amountText(amount: number): string;
  /** An amount as typed. */
  readAmount(text: string): AmountRead;
  /** A break in words, by how much the rule is broken. */
  excessText(by: number): string;
  /** The rule with an amount, as the engine has it under an id of its own. */
  instanceRule(rule: Rule, id: string, amount: number): InstanceRule;
  /** How far apart two plays can be and matter to each other, seconds. */
  reachSeconds(rule: RuleParts): number;
}

/** What every rule has in an instance. */
export function instanceFields(
  rule: Rule,
  id: string,
): Pick<InstanceRule, 'id' | 'tag' | 'strength' | 'rank'> & { value?: string } {
  return {
    id,
    tag: rule.tag,
    strength: rule.strength,
    ...(rule.strength === 'soft' && { rank: rule.rank }),
    ...(rule.value !== null && { value: rule.value }),
  };
}

/** Parts of a rule about one tag or value, the rest of them as most shapes have them. */
export function partsOf(shape: RuleParts['shape'], { tag, value }: Mention, amount: number): RuleParts {
  return { shape, tag, value, followedBy: null, amount, windowSeconds: null, exceptions: [] };
}

/** The one tag or value a text is about; otherwise why it is not one. */
export function onlyMention({
  mentions,
}: RuleText): { readonly ok: true; readonly mention: Mention } | { readonly ok: false; readonly why: string } {
  const [mention] = mentions;
  if (!mention || mentions.length > 1)
    return { ok: false, why: 'Say one of title, artist or album, or a tag such as tempo, as in “artist 90 min”.' };
  return mention.ambiguous.length > 0
    ? { ok: false, why: `Several tags have the value “${mention.value}”; name the tag as well.` }
    : { ok: true, mention };
}

/** The one whole number in a text, as in “at most 4”; null without one, or with several. */
export function onlyNumber(text: string): number | null {
  const found = [...text.matchAll(/\d+/g)];
  return found.length === 1 ? Number(elementAt(found, 0)[0]) : null;
}

/** A number of plays, inside a range; otherwise why not. */
export function readPlays(
  text: string,
  example: string,
): { readonly ok: true; readonly plays: number } | { readonly ok: false; readonly why: string } {
  const plays = onlyNumber(text);
  if (plays === null) return { ok: false, why: `Say how many, as in “${example}”.` };
  return plays >= 1 && plays <= 1000
    ? { ok: true, plays }
    : { ok: false, why: `${plays} is out of range; a rule counts from 1 to 1,000.` };
}

/** An amount counted in plays or days, as typed: `4`, `at most 4`, `3 days`. */
export function readCount(text: string, { unit, least, most }: AmountRange): AmountRead {
  const amount = onlyNumber(text);
  if (amount === null) return { ok: false, why: `“${text}” is not a number of ${unit}.` };
  return amount >= least && amount <= most
    ? { ok: true, amount }
    : { ok: false, why: `${amount} is out of range; ${least} to ${most.toLocaleString('en-GB')} ${unit}.` };
}

/** A number with its noun. */
export function countText(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}

import {
  instanceFields,
  onlyMention,
  partsOf,
  readCount,
  readPlays,
  type AmountRange,
  type RuleForm,
  piecesOf,
} from '../form.js';
import { MOST_PLAYS } from '../rule.js';

const AT_LEAST = /\bat least\b|\bno (?:fewer|less) than\b|\bmin(?:imum)?\b(?! apart)/;
const AN_HOUR = /\b(?:an|per|each|every|in an|in one) hour\b|\bhourly\b/;

const AMOUNT: AmountRange = { unit: 'plays', least: 1, most: MOST_PLAYS };

/** So many an hour at least, as people meet it. */
export const atLeastForm: RuleForm = {
  amount: AMOUNT,
  // An hour without enough that could play would leave every slot of it open, so it is a wish alone.
  strengths: ['soft'],
  pieces: piecesOf('At least {amount} of {subject} an hour'),
  amountPart: String,
  read: (text) => {
    if (!AT_LEAST.test(text.rest) || !AN_HOUR.test(text.rest) || /\bapart\b/.test(text.rest)) return null;
    const about = onlyMention(text);
    if (!about.ok) return about;
    const read = readPlays(text.rest, 'at least 2 of gender female an hour');
    return read.ok ? { ok: true, parts: partsOf('atLeast', about.mention, read.plays) } : read;
  },
  amountText: (amount) => `${amount} at least`,
  readAmount: (text) => readCount(text, AMOUNT),
  excessText: (by) => `${by} too few`,
  instanceRule: (rule, id, amount) => ({
    ...instanceFields(rule, id),
    strength: 'soft',
    shape: 'atLeast',
    count: amount,
    window: 'hour',
  }),
  reachSeconds: () => 3600,
};

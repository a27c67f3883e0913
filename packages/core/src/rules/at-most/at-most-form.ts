import { readSeparation } from '../apart/apart-form.js';
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

const AT_MOST = /\bat most\b|\bno more than\b|\bmax(?:imum)?\b|\bup to\b/;
const AN_HOUR = /\b(?:an|per|each|every|in an|in one) hour\b|\bhourly\b/;
/** A window such as “in 3 h” or “within 90 min”, at the end. */
const WINDOW = /\b(?:in|within|every|per)\s+(\d.*)$/;

const AMOUNT: AmountRange = { unit: 'plays', least: 1, most: MOST_PLAYS };

/** So many at most, as people meet it. */
export const atMostForm: RuleForm = {
  amount: AMOUNT,
  strengths: ['hard', 'soft'],
  pieces: piecesOf('At most {amount} of {subject} {window}'),
  amountPart: String,
  read: (text) => {
    const window = WINDOW.exec(text.rest.trim());
    if (!AT_MOST.test(text.rest) || (!AN_HOUR.test(text.rest) && !window)) return null;
    const about = onlyMention(text);
    if (!about.ok) return about;
    const span = window && !AN_HOUR.test(text.rest) ? readSeparation(window[1]!.replace(/\.$/, '')) : null;
    if (span && !span.ok) return span;
    const read = readPlays(
      span ? text.rest.trim().replace(WINDOW, '') : text.rest,
      'at most 2 of the same artist an hour',
    );
    if (!read.ok) return read;
    return {
      ok: true,
      parts: { ...partsOf('atMost', about.mention, read.plays), windowSeconds: span?.seconds ?? null },
    };
  },
  amountText: (amount) => `${amount} at most`,
  readAmount: (text) => readCount(text, AMOUNT),
  excessText: (by) => `${by} too many`,
  instanceRule: (rule, id, amount) => ({
    ...instanceFields(rule, id),
    shape: 'atMost',
    count: amount,
    window: rule.windowSeconds ?? 'hour',
  }),
  reachSeconds: (rule) => rule.windowSeconds ?? 3600,
};

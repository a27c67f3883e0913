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

const IN_A_ROW = /\bin a row\b|\bin succession\b|\bback to back\b/;

const AMOUNT: AmountRange = { unit: 'plays', least: 1, most: MOST_PLAYS };

/** Streaks as people meet them. */
export const streakForm: RuleForm = {
  amount: AMOUNT,
  strengths: ['hard', 'soft'],
  pieces: piecesOf('At most {amount} of {subject} in a row'),
  amountPart: String,
  read: (text) => {
    if (!IN_A_ROW.test(text.rest)) return null;
    const about = onlyMention(text);
    if (!about.ok) return about;
    const read = readPlays(text.rest, 'at most 2 of the same artist in a row');
    return read.ok ? { ok: true, parts: partsOf('streak', about.mention, read.plays) } : read;
  },
  amountText: (amount) => `${amount} in a row`,
  readAmount: (text) => readCount(text, AMOUNT),
  excessText: (by) => `run ${by} too long`,
  instanceRule: (rule, id, amount) => ({ ...instanceFields(rule, id), shape: 'streak', max: amount }),
  // Plays that follow each other are seldom more than some minutes apart.
  reachSeconds: (rule) => Math.max(rule.amount, ...rule.exceptions.map(({ amount }) => amount)) * 1800,
};

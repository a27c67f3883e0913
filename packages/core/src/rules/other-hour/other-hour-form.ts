import {
  countText,
  instanceFields,
  onlyMention,
  onlyNumber,
  partsOf,
  readCount,
  type AmountRange,
  type RuleForm,
  piecesOf,
} from '../form.js';

const SAME_HOUR = /\b(?:same|another|other|different) hour\b/;
const MOST_DAYS = 28;
const AMOUNT: AmountRange = { unit: 'days', least: 1, most: MOST_DAYS };

/** Other hours as people meet them. */
export const otherHourForm: RuleForm = {
  amount: AMOUNT,
  strengths: ['hard', 'soft'],
  pieces: piecesOf('Keep {subject} out of the same hour for {amount}'),
  amountPart: (amount) => countText(amount, 'day'),
  read: (text) => {
    if (!SAME_HOUR.test(text.rest)) return null;
    const about = onlyMention(text);
    if (!about.ok) return about;
    const days = onlyNumber(text.rest);
    if (days === null)
      return { ok: false, why: 'Say for how many days, as in “title out of the same hour for 2 days”.' };
    if (days < 1 || days > MOST_DAYS)
      return { ok: false, why: `${days} is out of range; from 1 to ${MOST_DAYS} days.` };
    return { ok: true, parts: partsOf('otherHour', about.mention, days) };
  },
  amountText: (amount) => countText(amount, 'day'),
  readAmount: (text) => readCount(text, AMOUNT),
  excessText: () => 'in the same hour',
  instanceRule: (rule, id, amount) => ({ ...instanceFields(rule, id), shape: 'otherHour', days: amount }),
  reachSeconds: (rule) => (Math.max(rule.amount, ...rule.exceptions.map(({ amount }) => amount)) + 1) * 86_400,
};

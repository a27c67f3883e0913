import { readTime } from '../../time/read-time.js';
import { formatSpan } from '../../time/span.js';
import { instanceFields, onlyMention, partsOf, type RuleForm, piecesOf } from '../form.js';
import { LONGEST_SEPARATION } from '../rule.js';

/** Words around the parts; a colon or full stop only where it is no part of a number. */
const FILLERS = /\b(?:keep|the|same|at least|apart|separate|separation|of|by|between|plays?|songs?)\b|[.:](?!\d)/g;

/** A distance in seconds, or why a text is none. */
export type SeparationRead =
  { readonly ok: true; readonly seconds: number } | { readonly ok: false; readonly why: string };

/** How far apart, as typed: more than nothing and at most 28 days. */
export function readSeparation(text: string): SeparationRead {
  const read = readTime(text, 'distance');
  if (!read.ok) return read;
  const seconds = Math.round(read.ms / 1000);
  if (seconds > 0 && seconds <= LONGEST_SEPARATION) return { ok: true, seconds };
  return { ok: false, why: `“${text}” is out of range; a separation is more than nothing and at most 28 days.` };
}

/** Separations as people meet them. */
export const apartForm: RuleForm = {
  amount: { unit: 'seconds', least: 1, most: LONGEST_SEPARATION },
  strengths: ['hard', 'soft'],
  pieces: piecesOf('Keep {subject} at least {amount} apart'),
  amountPart: formatSpan,
  read: (text) => {
    const about = onlyMention(text);
    if (!about.ok) return about;
    const distance = text.rest.replace(FILLERS, ' ').replaceAll(/\s+/g, ' ').trim();
    if (distance === '') return { ok: false, why: 'Say how far apart, as in “artist 90 min”.' };
    const read = readSeparation(distance);
    return read.ok ? { ok: true, parts: partsOf('apart', about.mention, read.seconds) } : read;
  },
  amountText: formatSpan,
  readAmount: (text) => {
    const read = readSeparation(text);
    return read.ok ? { ok: true, amount: read.seconds } : read;
  },
  excessText: (by) => `${formatSpan(by < 60 ? by : Math.ceil(by / 60) * 60)} too soon`,
  instanceRule: (rule, id, amount) => ({ ...instanceFields(rule, id), shape: 'apart', seconds: amount }),
  reachSeconds: (rule) => Math.max(rule.amount, ...rule.exceptions.map(({ amount }) => amount)),
};

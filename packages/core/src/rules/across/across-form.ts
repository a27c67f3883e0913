import { readSeparation } from '../apart/apart-form.js';
import { formatSpan } from '../../time/span.js';
import { instanceFields, onlyMention, partsOf, piecesOf, type RuleForm } from '../form.js';
import { LONGEST_ACROSS } from '../rule.js';

const ACROSS = /\b(?:across|other|sister|all|between) stations?\b/;
const FILLERS =
  /\b(?:keep|the|same|at least|apart|separate|separation|of|from|plays?|songs?|(?:across|other|sister|all|between) stations?)\b|[.:](?!\d)/g;

/** Separations across stations as people meet them. */
export const acrossForm: RuleForm = {
  amount: { unit: 'seconds', least: 1, most: LONGEST_ACROSS },
  strengths: ['hard', 'soft'],
  pieces: piecesOf('Keep {subject} at least {amount} apart across stations'),
  amountPart: formatSpan,
  read: (text) => {
    if (!ACROSS.test(text.rest)) return null;
    const about = onlyMention(text);
    if (!about.ok) return about;
    const distance = text.rest.replace(FILLERS, ' ').replaceAll(/\s+/g, ' ').trim();
    if (distance === '') return { ok: false, why: 'Say how far apart, as in “title 15 min across stations”.' };
    const read = readAcross(distance);
    return read.ok ? { ok: true, parts: partsOf('across', about.mention, read.amount) } : read;
  },
  amountText: formatSpan,
  readAmount: readAcross,
  excessText: (by) => `${formatSpan(by < 60 ? by : Math.ceil(by / 60) * 60)} too near another station`,
  // What plays elsewhere is put in when a day is laid out.
  instanceRule: (rule, id, amount) => ({ ...instanceFields(rule, id), shape: 'across', seconds: amount, plays: [] }),
  // Only this station’s own plays are looked back at, and none of them matters.
  reachSeconds: () => 0,
};

function readAcross(text: string): ReturnType<RuleForm['readAmount']> {
  const read = readSeparation(text);
  if (!read.ok) return read;
  if (read.seconds <= LONGEST_ACROSS) return { ok: true, amount: read.seconds };
  return { ok: false, why: `“${text}” is out of range; across stations it is at most ${formatSpan(LONGEST_ACROSS)}.` };
}

import { describe, expect, it } from '@jest/globals';
import * as v from 'valibot';
import { faultOf } from './fault-words.js';

const said = (schema: v.GenericSchema, value: unknown): string => {
  const read = v.safeParse(schema, value);
  if (read.success) throw new Error('nothing is wrong with it');
  return faultOf(read.issues[0]);
};
const Body = v.strictObject({
  name: v.pipe(v.string(), v.minLength(1, 'is empty'), v.maxLength(3)),
  count: v.pipe(v.number(), v.integer(), v.minValue(2), v.maxValue(9)),
  kind: v.picklist(['song', 'jingle', 'liner']),
  note: v.optional(v.nullable(v.string())),
  rows: v.optional(v.array(v.object({ at: v.number() }))),
});
const good = { name: 'a', count: 5, kind: 'song' };

describe('what is wrong with a request', () => {
  it.each([
    [{ ...good, name: undefined }, '“name” is missing.'],
    [{ ...good, name: 5 }, '“name” must be a text.'],
    [{ ...good, name: '' }, '“name” is empty.'],
    [{ ...good, name: 'abcd' }, '“name” must have at most 3.'],
    [{ ...good, count: '5' }, '“count” must be a number.'],
    [{ ...good, count: 2.5 }, '“count” must be a whole number.'],
    [{ ...good, count: 1 }, '“count” must be at least 2.'],
    [{ ...good, count: 10 }, '“count” must be at most 9.'],
    [{ ...good, kind: 'spot' }, '“kind” must be song, jingle or liner.'],
    [{ ...good, note: 5 }, '“note” must be a text.'],
    [{ ...good, rows: {} }, '“rows” must be a list.'],
    [{ ...good, rows: [{ at: 1 }, { at: 'x' }] }, '“rows.1.at” must be a number.'],
    [{ ...good, colour: 1 }, '“colour” is not a field here.'],
  ])('%j is told as %s', (value, words) => expect(said(Body, value)).toBe(words));

  it.each([[null], ['text'], [5]])('%j is no request at all', (value) =>
    expect(said(Body, value)).toMatch(/^Send a JSON object\.$|must be an object/),
  );

  it('is told in the words of the schema where it has its own', () => {
    const Date = v.object({
      from: v.pipe(
        v.string(),
        v.check(() => false, 'is not a date like 2026-11-23'),
      ),
    });
    expect(said(Date, { from: 'soon' })).toBe('“from” is not a date like 2026-11-23.');
    const Pattern = v.object({
      filter: v.pipe(
        v.string(),
        v.check(() => false, 'a quotation does not end'),
      ),
    });
    expect(said(Pattern, { filter: '"' })).toBe('“filter”: a quotation does not end.');
  });
});

import { lastOf } from '@fuller/core';
import * as v from 'valibot';

/** What is wrong with a request, in words a person can act on: the field by its path, and what it should be. */
export function faultOf(issue: v.BaseIssue<unknown>): string {
  const field = v.getDotPath(issue);
  if (field === null && issue.type === 'object') return 'Send a JSON object.';
  const name = `“${field ?? lastKey(issue) ?? 'request'}”`;
  if (!/^Invalid /.test(issue.message)) {
    return /^(?:is|are|must|hold|has)\b/.test(issue.message)
      ? `${name} ${issue.message}.`
      : `${name}: ${issue.message}.`;
  }
  if (issue.expected === 'never') return `${name} is not a field here.`;
  if (issue.received === 'undefined') return `${name} is missing.`;
  return `${name} ${shouldBe(issue)}.`;
}

function lastKey(issue: v.BaseIssue<unknown>): string | null {
  const key = issue.path?.at(-1)?.key;
  return key === undefined ? null : String(key);
}

const NAMES: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  boolean: 'true or false',
  Object: 'an object',
  object: 'an object',
  Array: 'a list',
  array: 'a list',
  record: 'an object',
  null: 'nothing',
  undefined: 'left out',
};

/** What a value should be, from what the schema expected. */
function shouldBe({ type, expected }: v.BaseIssue<unknown>): string {
  switch (type) {
    case 'integer':
    case 'safe_integer':
      return 'must be a whole number';
    case 'finite':
      return 'must be a number that is not infinite';
    case 'min_value':
      return `must be at least ${plain(expected)}`;
    case 'max_value':
      return `must be at most ${plain(expected)}`;
    case 'min_length':
      return `must have at least ${plain(expected)}`;
    case 'max_length':
      return `must have at most ${plain(expected)}`;
  }
  const choices = (expected ?? '').replace(/^\(|\)$/g, '').split(' | ');
  const words = choices.map((one) => NAMES[one] ?? one.replace(/^"(.*)"$/, '$1'));
  return `must be ${words.length > 1 ? `${words.slice(0, -1).join(', ')} or ${lastOf(words)}` : words[0] || 'something else'}`;
}

function plain(expected: string | null): string {
  return (expected ?? '').replace(/^[<>=]+/, '').replaceAll('"', '');
}

import moo from 'moo';

/** A piece of a filter's text: bare words, or a field with its values. */
export interface Token {
  readonly at: number;
  readonly end: number;
  readonly not: boolean;
  /** Null for bare words. */
  readonly field: string | null;
  readonly values: readonly TokenValue[];
}

/** A value in a filter's text and where it stands; `end` is after its last character. */
export interface TokenValue {
  readonly at: number;
  readonly end: number;
  readonly text: string;
}

const space = { match: /\s+/u, lineBreaks: true };
const field = { match: /\p{L}[\p{L}\p{N}_-]*:/u, next: 'value' };
/** A quotation that is not closed goes on to the end. */
const quotation = { match: /"[^"]*"?/u, lineBreaks: true };
const word = /\S+/u;

/**
 * `main` stands before a piece, `negated` after its minus sign, `value` where a value of a field begins, `after` behind
 * one. Bare words hold commas; values of a field end at them.
 */
const lexer = moo.states({
  main: { space, not: { match: /-(?=\S)/u, next: 'negated' }, field, quotation, word },
  negated: { field, quotation: { ...quotation, next: 'main' }, word: { match: word, next: 'main' } },
  value: {
    space: { ...space, next: 'main' },
    comma: /,/u,
    quotation: { ...quotation, next: 'after' },
    word: { match: /[^\s,"][^\s,]*/u, next: 'after' },
  },
  after: {
    space: { ...space, next: 'main' },
    comma: { match: /,/u, next: 'value' },
    not: { match: /-(?=\S)/u, next: 'negated' },
    field,
    quotation: { ...quotation, next: 'main' },
    word: { match: word, next: 'main' },
  },
});

/** The pieces of a filter's text. */
export function tokensOf(text: string): Token[] {
  const tokens: { at: number; not: boolean; field: string | null; values: TokenValue[] }[] = [];
  let negatedAt: number | null = null;
  /** The field whose values are being read. */
  let open: (typeof tokens)[number] | null = null;
  /** Where a value is due that may be empty. */
  let dueAt: number | null = null;
  for (const { type, text: raw, offset } of lexer.reset(text)) {
    if (dueAt !== null && (type === 'space' || type === 'comma'))
      open?.values.push({ at: dueAt, end: dueAt, text: '' });
    dueAt = null;
    if (type === 'not') negatedAt = offset;
    else if (type === 'field') {
      open = { at: negatedAt ?? offset, not: negatedAt !== null, field: raw.slice(0, -1), values: [] };
      tokens.push(open);
      dueAt = offset + raw.length;
    } else if (type === 'comma') dueAt = offset + 1;
    else if (type === 'space') open = null;
    else {
      const value = { at: offset, end: offset + raw.length, text: type === 'quotation' ? unquoted(raw) : raw };
      const last = open?.values.at(-1);
      // Behind a quotation without a comma something new begins.
      if (open && (last === undefined || text[offset - 1] === ',')) open.values.push(value);
      else {
        open = null;
        tokens.push({ at: negatedAt ?? offset, not: negatedAt !== null, field: null, values: [value] });
      }
    }
    if (type !== 'not') negatedAt = null;
  }
  if (dueAt !== null) open?.values.push({ at: dueAt, end: dueAt, text: '' });
  return tokens.map((token) => ({ ...token, end: token.values.at(-1)?.end ?? token.at }));
}

function unquoted(raw: string): string {
  return raw.length > 1 && raw.endsWith('"') ? raw.slice(1, -1) : raw.slice(1);
}

/** A value as it is written: in quotation marks where it holds what would end it. */
export function quoted(value: string): string {
  return /[\s,"]/.test(value) || value === '' ? `"${value.replaceAll('"', '')}"` : value;
}

/** A text as a filter that looks for its words, whatever it holds. */
export function asWords(text: string): string {
  return /[:"]|(?:^|\s)-/.test(text) ? `"${text.replaceAll('"', ' ')}"` : text;
}

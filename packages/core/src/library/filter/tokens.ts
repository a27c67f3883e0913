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

const FIELD = /^([\p{L}][\p{L}\p{N}_-]*):/u;

/** The pieces of a filter's text. A quotation that is not closed goes on to the end. */
export function tokensOf(text: string): Token[] {
  const tokens: Token[] = [];
  let i = 0;
  while (i < text.length) {
    if (/\s/.test(text[i]!)) {
      i++;
      continue;
    }
    const at = i;
    const not = text[i] === '-' && /\S/.test(text[i + 1] ?? '');
    if (not) i++;
    const field = FIELD.exec(text.slice(i))?.[1] ?? null;
    if (field !== null) i += field.length + 1;
    const values: TokenValue[] = [];
    do {
      if (values.length > 0) i++;
      const value = readValue(text, i, field !== null);
      values.push(value);
      i = value.end;
    } while (field !== null && text[i] === ',');
    tokens.push({ at, end: i, not, field, values });
  }
  return tokens;
}

function readValue(text: string, at: number, inField: boolean): TokenValue {
  if (text[at] === '"') {
    const close = text.indexOf('"', at + 1);
    const end = close < 0 ? text.length : close + 1;
    return { at, end, text: text.slice(at + 1, close < 0 ? end : close) };
  }
  let end = at;
  while (end < text.length && !/\s/.test(text[end]!) && !(inField && text[end] === ',')) end++;
  return { at, end, text: text.slice(at, end) };
}

/** A value as it is written: in quotation marks where it holds what would end it. */
export function quoted(value: string): string {
  return /[\s,"]/.test(value) || value === '' ? `"${value.replaceAll('"', '')}"` : value;
}

/** A text as a filter that looks for its words, whatever it holds. */
export function asWords(text: string): string {
  return /[:"]|(?:^|\s)-/.test(text) ? `"${text.replaceAll('"', ' ')}"` : text;
}

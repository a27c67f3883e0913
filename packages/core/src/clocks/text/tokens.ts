import moo from 'moo';

/** A word of clock text and where it stands; columns count from 1. */
export interface Token {
  readonly type: 'word' | 'text' | 'time' | 'number' | 'id' | 'colour' | 'comment' | 'stray';
  /** Without quotes, brackets and dashes. */
  readonly value: string;
  readonly column: number;
  readonly length: number;
}

const lexer = moo.compile({
  space: /[ \t]+/,
  comment: /--[^\n]*/,
  text: /"(?:\\["\\n]|[^"\\\n])*"/,
  time: /\d{1,4}:[0-5]\d(?:\.\d{1,3})?(?![\d:.])/,
  number: /\d{1,3}(?![\w:.])/,
  id: /\[[A-Za-z0-9_-]+\]/,
  colour: /#[0-9A-Fa-f]{6}(?![0-9A-Za-z])/,
  word: /[a-z][a-z-]*/,
  stray: /[^ \t\n]+/,
});

/** The tokens of one line. */
export function tokensOf(line: string): Token[] {
  return Array.from(lexer.reset(line))
    .filter(({ type }) => type !== 'space')
    .map(({ type, text, offset }) => ({
      type: type as Token['type'],
      value: plainOf(type!, text),
      column: offset + 1,
      length: text.length,
    }));
}

function plainOf(type: string, text: string): string {
  if (type === 'text') return text.slice(1, -1).replace(/\\(.)/g, (_, one: string) => (one === 'n' ? '\n' : one));
  if (type === 'id') return text.slice(1, -1);
  return type === 'comment' ? text.slice(2).trim() : text;
}

/** A text in quotes. */
export function quoted(text: string): string {
  return `"${text.replace(/["\\]/g, '\\$&').replaceAll('\n', '\\n')}"`;
}

/** Minutes and seconds, with thousandths where there are some: `12:00`, `90:07.250`. */
export function timeText(ms: number): string {
  const seconds = Math.floor(ms / 1000);
  const rest = ms % 1000;
  const text = `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
  return rest ? `${text}.${String(rest).padStart(3, '0')}` : text;
}

/** The milliseconds of a time token. */
export function timeOf(text: string): number {
  const [minutes, seconds] = text.split(':');
  return Number(minutes) * 60_000 + Math.round(Number(seconds) * 1000);
}

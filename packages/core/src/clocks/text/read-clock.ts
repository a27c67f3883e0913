import { elementAt } from '../../values/look-up.js';
import { TURN_ORDERS, type TurnOrder } from '../../rotation/category.js';
import { nameKey } from '../../text/fold.js';
import { FIRST_GROUP, THEME_TAGS, type Theme } from '../../themes/theme.js';
import { LINE_FLAGS, type LineFlags } from '../line-flags.js';
import { GRAIN_MS, LONGEST_CLOCK_MS, type ClockLine, type TeaseLine, type TeaseTarget } from '../line.js';
import { namedReferences, type NameBook, type NamedReference } from './clock-names.js';
import { timeOf, tokensOf, type Token } from './tokens.js';

/** A line without an id. */
export type TextLine =
  | (ClockLine extends infer Line ? (Line extends ClockLine ? Omit<Line, 'id'> : never) : never)
  | (Omit<TeaseLine, 'id' | 'target'> & { readonly target: PlaceTarget });

/** A line as text names it: by its place in the clock, from 1; 0 where there is none. */
export interface PlaceTarget {
  readonly to: 'place';
  readonly place: number;
}

/** A clock read from text. */
export interface ClockText {
  /** What the first line says; null where the text has lines alone. */
  readonly head: { readonly name: string; readonly lengthMs: number; readonly colour: string | null } | null;
  readonly lines: readonly TextLine[];
}

/** What is wrong in clock text; line and column count from 1. */
export interface TextFault {
  readonly line: number;
  readonly column: number;
  readonly length: number;
  readonly message: string;
}

/** The most rows of a set list one line of a clock plays. */
export const MOST_ROWS = 200;

class Fault extends Error {
  constructor(
    readonly token: Pick<Token, 'column' | 'length'>,
    message: string,
  ) {
    super(message);
  }
}

/** Reads clock text. Lines with faults are left out, so it is to be used only where there are none. */
export function readClock(text: string, book: NameBook): { clock: ClockText; faults: TextFault[] } {
  const faults: TextFault[] = [];
  const lines: TextLine[] = [];
  let head: ClockText['head'] = null;
  const places: { readonly row: number; readonly token: Token; readonly from: number; readonly place: number }[] = [];
  text.split(/\r?\n/).forEach((row, index) => {
    try {
      const tokens = new Reader(tokensOf(row), row.length);
      if (tokens.atEnd) return;
      if (tokens.nextIs('clock')) {
        if (head || lines.length) throw new Fault(tokens.at, 'The clock is named once, before its lines.');
        head = readHead(tokens);
      } else {
        const line = { ...readLine(tokens, book), ...tokens.flags };
        lines.push(line);
        if (line.kind === 'tease' && line.target.to === 'place')
          places.push({ row: index + 1, token: tokens.lastNumber!, from: lines.length, place: line.target.place });
      }
    } catch (error) {
      if (!(error instanceof Fault)) throw error;
      faults.push({ line: index + 1, ...pick(error.token), message: error.message });
    }
  });
  for (const { row, token, from, place } of places) {
    const message =
      place > lines.length
        ? `There is no line ${place} in this clock.`
        : place <= from && place > 0
          ? 'That line does not come after the tease.'
          : null;
    // Lines with faults are left out, so places are only known where there are none.
    if (message && faults.length === 0) faults.push({ line: row, ...pick(token), message });
  }
  return { clock: { head, lines }, faults };
}

const pick = ({ column, length }: Pick<Token, 'column' | 'length'>) => ({ column, length });

/** Walks through the tokens of a line. */
class Reader {
  private place = 0;
  private readonly tokens: readonly Token[];
  readonly comment: string;
  /** What the end of the line asks of player and print. */
  readonly flags: LineFlags;

  constructor(
    tokens: readonly Token[],
    private readonly width: number,
  ) {
    const last = tokens.at(-1);
    this.comment = last?.type === 'comment' ? last.value : '';
    // A comment alone is kept among the tokens, as it has no line to belong to.
    const told = last?.type === 'comment' && tokens.length > 1 ? tokens.slice(0, -1) : [...tokens];
    this.flags = takeFlags(told);
    this.tokens = told;
  }

  get atEnd(): boolean {
    return this.place >= this.tokens.length;
  }

  /** The next token, or the place behind the last. */
  get at(): Pick<Token, 'column' | 'length'> {
    return this.tokens[this.place] ?? { column: this.width + 1, length: 0 };
  }

  nextIs(word: string): boolean {
    const token = this.tokens[this.place];
    if (token?.type !== 'word' || token.value !== word) return false;
    this.place++;
    return true;
  }

  take(type: Token['type'], what: string): Token {
    const token = this.tokens[this.place];
    if (token?.type !== type) throw new Fault(this.at, `Here ${what} is wanted.`);
    this.place++;
    return token;
  }

  /** The number read last. */
  lastNumber: Token | null = null;

  takeNumber(what: string): number {
    this.lastNumber = this.take('number', what);
    return Number(this.lastNumber.value);
  }

  takeIf(type: Token['type']): Token | null {
    return this.tokens[this.place]?.type === type ? elementAt(this.tokens, this.place++) : null;
  }

  end(wanted: string): void {
    if (!this.atEnd) throw new Fault(this.at, `This is not understood here; ${wanted}.`);
  }
}

/** Takes the flags off the end of a line: `then wait`, `no fade`, `no file`, `no print`, in any order. */
function takeFlags(tokens: Token[]): LineFlags {
  const flags: { -readonly [Flag in keyof LineFlags]: LineFlags[Flag] } = {};
  for (;;) {
    const [first, second] = tokens.slice(-2);
    const said = first?.type === 'word' && second?.type === 'word' ? `${first.value} ${second.value}` : null;
    const found = LINE_FLAGS.find(({ words }) => words === said);
    if (!found || tokens.length <= 2) return flags;
    if (flags[found.flag]) throw new Fault(first!, 'This has been said already.');
    flags[found.flag] = true;
    tokens.splice(-2);
  }
}

const time = (reader: Reader, what: string): number => timeOf(reader.take('time', `${what}, like 12:00,`).value);

function readHead(reader: Reader): NonNullable<ClockText['head']> {
  const named = reader.take('text', 'the name of the clock in quotes');
  if (named.value.trim() === '') throw new Fault(named, 'A clock needs a name.');
  const where = reader.at;
  const lengthMs = time(reader, 'the length of the clock');
  if (lengthMs === 0 || lengthMs % GRAIN_MS || lengthMs > LONGEST_CLOCK_MS)
    throw new Fault(where, 'A clock is five minutes long or a multiple of that, at most 24 hours.');
  const colour = reader.takeIf('colour')?.value ?? null;
  reader.end('after name and length comes a colour like #24527A at most');
  return { name: named.value.trim(), lengthMs, colour };
}

function readLine(reader: Reader, book: NameBook): TextLine {
  const { comment } = reader;
  if (reader.nextIs('pick')) return readPick(reader, book);
  if (reader.nextIs('item')) {
    const itemId = named(reader, book.items, 'item');
    const spare = reader.nextIs('spare');
    reader.end('an item may be “spare”');
    return { kind: 'item', itemId, ...(spare ? { spare } : {}), comment };
  }
  if (reader.nextIs('break')) return readBreak(reader);
  if (reader.nextIs('at')) return readMoment(reader, book);
  if (reader.nextIs('fill')) {
    const categoryId = named(reader, book.sources, 'category or pool');
    const filter = readWhere(reader);
    reader.end('fill may have a filter: where "…"');
    return { kind: 'fill', categoryId, ...filter, comment };
  }
  if (reader.nextIs('set')) return readSetList(reader, book);
  if (reader.nextIs('tease')) return readTease(reader, book);
  if (reader.nextIs('sweeper')) {
    const categoryId = named(reader, book.sources, 'category or pool');
    const filter = readWhere(reader);
    reader.end('a sweeper may have a filter: where "…"');
    return { kind: 'sweeper', categoryId, ...filter, comment };
  }
  if (reader.nextIs('next')) {
    if (!reader.nextIs('show')) throw new Fault(reader.at, 'Here “show” is wanted.');
    reader.end('the announcement of the next show has nothing more to say');
    return { kind: 'next show', comment };
  }
  if (reader.nextIs('note')) {
    const { value } = reader.take('text', 'the text of the note in quotes');
    reader.end('a note is one text');
    return { kind: 'note', text: value, comment };
  }
  throw new Fault(
    reader.at,
    'A line begins with pick, item, break, at, fill, set list, tease, sweeper, next show or note; a comment stands behind one.',
  );
}

function readPick(reader: Reader, book: NameBook): TextLine {
  const categoryId = named(reader, book.sources, 'category or pool');
  let options: Omit<Extract<TextLine, { kind: 'pick' }>, 'kind' | 'categoryId' | 'comment'> = {};
  const once = (name: keyof typeof options, at: Pick<Token, 'column' | 'length'>): void => {
    if (name in options) throw new Fault(at, 'This has been said already.');
  };
  while (!reader.atEnd) {
    const at = reader.at;
    if (reader.nextIs('where')) {
      once('filter', at);
      options = { ...options, filter: reader.take('text', 'a filter in quotes').value };
    } else if (reader.nextIs('turn')) {
      once('turnOrder', at);
      options = { ...options, turnOrder: readTurn(reader) };
    } else if (reader.nextIs('without')) {
      if (!reader.nextIs('rules')) throw new Fault(reader.at, 'Here “rules” is wanted.');
      once('rules', at);
      options = { ...options, rules: 'off' };
    } else if (reader.nextIs('spare')) {
      once('spare', at);
      options = { ...options, spare: true };
    } else if (reader.nextIs('theme')) {
      once('theme', at);
      options = { ...options, theme: readTheme(reader, book) };
    } else if (reader.nextIs('ask')) {
      once('ask', at);
      options = { ...options, ask: reader.take('text', 'the question in quotes').value };
    } else if (reader.nextIs('note')) {
      once('note', at);
      options = { ...options, note: reader.take('text', 'the note in quotes').value };
    } else reader.end('a pick may have where, turn, without rules, spare, theme, ask and note');
  }
  return { kind: 'pick', categoryId, ...options, comment: reader.comment };
}

function readSetList(reader: Reader, { setLists = [] }: NameBook): TextLine {
  if (!reader.nextIs('list')) throw new Fault(reader.at, 'Here “list” is wanted.');
  const setListId = named(reader, setLists, 'set list');
  let take: 'all' | number = 'all';
  if (reader.nextIs('next')) {
    const at = reader.at;
    take = reader.takeNumber('how many rows play');
    if (take < 1 || take > MOST_ROWS) throw new Fault(at, `A line plays 1 to ${MOST_ROWS} rows.`);
  } else reader.nextIs('all');
  const fromTop = reader.nextIs('from');
  if (fromTop && !reader.nextIs('top')) throw new Fault(reader.at, 'Here “top” is wanted.');
  reader.end('a set list plays all or next 5, and may begin from top');
  return { kind: 'set list', setListId, take, from: fromTop ? 'top' : 'next', comment: reader.comment };
}

function readTease(reader: Reader, book: NameBook): TextLine {
  const target = readTarget(reader, book);
  reader.end('a tease announces one thing');
  return { kind: 'tease', target, comment: reader.comment } as TextLine;
}

function readTarget(reader: Reader, book: NameBook): Exclude<TeaseTarget, { to: 'line' }> | PlaceTarget {
  if (reader.nextIs('pick')) return { to: 'pick', categoryId: named(reader, book.sources, 'category or pool') };
  if (reader.nextIs('line')) return { to: 'place', place: reader.takeNumber('the number of a line') };
  if (reader.nextIs('at')) return { to: 'time', atMs: time(reader, 'when what is announced begins') };
  if (reader.nextIs('next')) {
    if (!reader.nextIs('show')) throw new Fault(reader.at, 'Here “show” is wanted.');
    return { to: 'next show' };
  }
  throw new Fault(reader.at, 'Here what it announces is wanted: pick "…", line 7, at 45:00 or next show.');
}

function readTheme(reader: Reader, { families = [] }: NameBook): Theme {
  const { value, ...token } = reader.take('text', 'what its lines share in quotes, like "artist"');
  const family = families.find((one) => nameKey(one) === nameKey(value));
  const by = THEME_TAGS.find((one) => one === value) ?? family;
  if (by === undefined)
    throw new Fault(token, `Lines cannot share “${value}”; they share ${[...THEME_TAGS, ...families].join(', ')}.`);
  const group = reader.nextIs('group')
    ? reader.take('text', 'the name of the group in quotes').value.trim()
    : FIRST_GROUP;
  return { by, group: group || FIRST_GROUP };
}

function readTurn(reader: Reader): TurnOrder {
  const { value, ...token } = reader.take('word', 'a turn order');
  const order = TURN_ORDERS.find((one) => one.replaceAll(' ', '-') === value);
  if (order) return order;
  throw new Fault(
    token,
    `There is no turn order “${value}”; there are ${TURN_ORDERS.map((one) => one.replaceAll(' ', '-')).join(', ')}.`,
  );
}

function readBreak(reader: Reader): TextLine {
  if (!reader.nextIs('at')) throw new Fault(reader.at, 'Here “at” is wanted, and when the break is booked.');
  const bookedAtMs = time(reader, 'when the break is booked');
  if (!reader.nextIs('for')) throw new Fault(reader.at, 'Here “for” is wanted, and how long the break is.');
  const durationMs = time(reader, 'how long the break is');
  reader.end('a break has a time and a length');
  return { kind: 'break', bookedAtMs, durationMs, comment: reader.comment };
}

function readMoment(reader: Reader, book: NameBook): TextLine {
  const atMs = time(reader, 'when the moment is');
  const hard = reader.nextIs('hard');
  if (!hard && !reader.nextIs('soft')) throw new Fault(reader.at, 'Here “hard” or “soft” is wanted.');
  const { comment } = reader;
  if (reader.nextIs('item')) {
    const itemId = named(reader, book.items, 'item');
    reader.end('the item is all a moment needs');
    return { kind: 'moment', atMs, hard, itemId, categoryId: null, comment };
  }
  if (!reader.nextIs('pick')) throw new Fault(reader.at, 'Here “pick” or “item” is wanted.');
  const categoryId = named(reader, book.sources, 'category or pool');
  const filter = readWhere(reader);
  reader.end('the pick of a moment may have a filter: where "…"');
  return { kind: 'moment', atMs, hard, itemId: null, categoryId, ...filter, comment };
}

function readWhere(reader: Reader): { filter?: string } {
  return reader.nextIs('where') ? { filter: reader.take('text', 'a filter in quotes').value } : {};
}

/** The id behind a name, or the one in brackets after it. */
function named(reader: Reader, things: readonly NamedReference[], what: string): string {
  const { value, ...token } = reader.take('text', `the name of ${what === 'item' ? 'an item' : `a ${what}`} in quotes`);
  const id = reader.takeIf('id');
  if (id) {
    if (things.some((thing) => thing.id === id.value)) return id.value;
    throw new Fault(id, `No ${what} has this id.`);
  }
  const found = namedReferences(things, value);
  if (found.length === 1) return elementAt(found, 0).id;
  if (found.length === 0) throw new Fault(token, `There is no ${what} named “${value}”.`);
  throw new Fault(
    token,
    `${found.length} are named “${value}”; write the id of one behind it: ${found.map((one) => `[${one.id}]`).join(' or ')}.`,
  );
}

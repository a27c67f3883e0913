import type { Clock, ClockLine, TeaseTarget } from '../line.js';
import { FIRST_GROUP } from '../../themes/theme.js';
import { LINE_FLAGS } from '../line-flags.js';
import { namedReferences, type NameBook, type NamedReference } from './clock-names.js';
import { quoted, timeText } from './tokens.js';

/** A clock as text, which `readClock` reads back without loss but for the ids of its lines. */
export function writeClock(clock: Pick<Clock, 'name' | 'colour' | 'lengthMs' | 'lines'>, book: NameBook): string {
  const head = `clock ${quoted(clock.name)} ${timeText(clock.lengthMs)} ${clock.colour}`;
  return `${[head, '', ...clock.lines.map((line) => writeLine(line, book, clock.lines))].join('\n')}\n`;
}

/** One line of a clock as text; `lines` are those it stands among. */
export function writeLine(line: ClockLine, book: NameBook, lines: readonly Pick<ClockLine, 'id'>[] = []): string {
  const source = (id: string): string => reference(id, book.sources);
  const item = (id: string): string => reference(id, book.items);
  const where = (filter: string | undefined): string => (filter ? ` where ${quoted(filter)}` : '');
  const spare = (is: true | undefined): string => (is ? ' spare' : '');
  const flags = LINE_FLAGS.map(({ flag, words }) => (line[flag] ? ` ${words}` : '')).join('');
  const comment = flags + (line.comment ? ` -- ${line.comment}` : '');
  const target = (to: TeaseTarget): string => {
    if (to.to === 'pick') return `pick ${source(to.categoryId)}`;
    if (to.to === 'line') return `line ${lines.findIndex(({ id }) => id === to.lineId) + 1}`;
    return to.to === 'time' ? `at ${timeText(to.atMs)}` : 'next show';
  };
  switch (line.kind) {
    case 'pick': {
      const turn = line.turnOrder ? ` turn ${line.turnOrder.replaceAll(' ', '-')}` : '';
      const rules = line.rules ? ' without rules' : '';
      const theme = line.theme
        ? ` theme ${quoted(line.theme.by)}${line.theme.group === FIRST_GROUP ? '' : ` group ${quoted(line.theme.group)}`}`
        : '';
      const ask = line.ask === undefined ? '' : ` ask ${quoted(line.ask)}`;
      const note = line.note === undefined ? '' : ` note ${quoted(line.note)}`;
      return `pick ${source(line.categoryId)}${where(line.filter)}${turn}${rules}${spare(line.spare)}${theme}${ask}${note}${comment}`;
    }
    case 'item':
      return `item ${item(line.itemId)}${spare(line.spare)}${comment}`;
    case 'break':
      return `break at ${timeText(line.bookedAtMs)} for ${timeText(line.durationMs)}${comment}`;
    case 'moment': {
      const what = line.itemId === null ? `pick ${source(line.categoryId ?? '')}` : `item ${item(line.itemId)}`;
      return `at ${timeText(line.atMs)} ${line.hard ? 'hard' : 'soft'} ${what}${where(line.filter)}${comment}`;
    }
    case 'fill':
      return `fill ${source(line.categoryId)}${where(line.filter)}${comment}`;
    case 'set list': {
      const take = line.take === 'all' ? ' all' : ` next ${line.take}`;
      return `set list ${reference(line.setListId, book.setLists ?? [])}${take}${line.from === 'top' ? ' from top' : ''}${comment}`;
    }
    case 'tease':
      return `tease ${target(line.target)}${comment}`;
    case 'sweeper':
      return `sweeper ${source(line.categoryId)}${where(line.filter)}${comment}`;
    case 'next show':
      return `next show${comment}`;
    case 'note':
      return `note ${quoted(line.text)}${comment}`;
  }
}

/** A name, with its id where the name alone does not say which. */
function reference(id: string, things: readonly NamedReference[]): string {
  const thing = things.find((one) => one.id === id);
  if (!thing) return `"?" [${id}]`;
  return namedReferences(things, thing.name).length === 1 ? quoted(thing.name) : `${quoted(thing.name)} [${id}]`;
}

import { formatAirTime, type EntryTheme, type LogEntry } from '@fuller/core';

/** What the clock or the station has to do with an entry's place, in words; empty where there is nothing to say. */
export function placeWords(entry: LogEntry, timeZone: string): string {
  const pick = entry.kind === 'pick' ? entry : null;
  return [
    entry.from ? `Put here by the ${entry.from} of the station or the show.` : '',
    markWords(entry, timeZone),
    entry.listPlace ? 'From a set list.' : '',
    spareWords(entry),
    pick?.filters?.length ? `Only what fits ${pick.filters.join(' and ')}.` : '',
    pick?.theme ? themeWords(pick.theme) : '',
    pick?.rules ? 'No rules apply.' : '',
  ]
    .filter((words) => words !== '')
    .join(' ');
}

/** The value its line shares with others of its clock, or that none could be had. */
function themeWords({ by, value, words }: EntryTheme): string {
  return value === null
    ? `No ${by} could fill the lines that were to share one, so they share none.`
    : `One ${by} for these lines: ${words}.`;
}

function markWords({ mark }: LogEntry, timeZone: string): string {
  if (!mark) return '';
  const at = formatAirTime(mark.atMs, timeZone);
  if (mark.hard) return `Begins at ${at} whatever plays.`;
  return mark.late ? `Begins at ${at}, or when what plays then has ended.` : `Begins at ${at}, not before.`;
}

function spareWords(entry: LogEntry): string {
  const fill = entry.kind === 'pick' && entry.fill;
  if (entry.out)
    return fill ? 'Fill was not needed: what plays reaches the mark.' : 'Left out, as there was no room for it.';
  if (fill) return 'Chosen for its length, to reach the next mark.';
  return (entry.kind === 'pick' || entry.kind === 'item') && entry.spare
    ? 'Spare: left out where the hour is long.'
    : '';
}

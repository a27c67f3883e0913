import type { ActivityChange } from '@fuller/contracts';
import type { RecordedChange } from '../store/change-set.js';

/** What people call the things that change. */
const THINGS: Readonly<Record<string, string>> = {
  artistAlias: 'spelling of an artist',
  credit: 'credit',
  tagFamily: 'tag family',
  placement: 'place in a category',
  categoryGroup: 'category group',
  datePlan: 'date',
  limitPack: 'statutory limits',
  oneAct: 'act',
  keptApart: 'double that is none',
  worklist: 'worklist',
  watchedFolder: 'watched folder',
  rotationPlan: 'plan of a category',
  unreadableNote: 'note',
  handOver: 'hand-over',
  playerOutput: 'output',
  trafficSettings: 'traffic settings',
  textLayout: 'layout',
  trafficDay: 'traffic log',
  onAirSettings: 'player settings',
  rollingSettings: 'live queue settings',
  setList: 'set list',
  setListRows: 'rows of a set list',
  sponsorSettings: 'settings of sponsors',
  asRun: 'what aired',
  keptReport: 'report',
  secret: 'password or token',
  person: 'account',
};
/** Of use to the program alone. */
const INNER = /^(?:id|revision|position|atMs|\w+(?:Id|Ids|Key|Fold))$/;
/** Fields whose name in the program says little to a person. */
const FIELDS: Readonly<Record<string, string>> = { life: 'how long songs stay', planned: 'planned move' };
const LONGEST_VALUE = 160;

/** A recorded change as a person reads it: the thing, its name, and each field before and after. */
export function changeWords({ thing, before, after }: RecordedChange): ActivityChange {
  const [was, is] = [fieldsOf(before), fieldsOf(after)];
  const inner = thing === 'log' || thing === 'setListRows' || thing === 'asRun';
  const keys = inner ? [] : [...new Set([...Object.keys(was), ...Object.keys(is)])].filter((key) => !INNER.test(key));
  return {
    thing: THINGS[thing] ?? thing,
    name: nameOf(is) || nameOf(was),
    did: didOf(before, after),
    fields: keys
      .map((field) => ({
        field: FIELDS[field] ?? fieldWords(field),
        before: textOf(was[field]),
        after: textOf(is[field]),
      }))
      .filter((one) => one.before !== one.after),
  };
}

function didOf(before: unknown, after: unknown): ActivityChange['did'] {
  if (before === null && after !== null) return 'made';
  return before !== null && after === null ? 'deleted' : 'changed';
}

function fieldsOf(value: unknown): Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value) ? { ...value } : {};
}

function nameOf({ name, title, artist, date }: Record<string, unknown>): string {
  const main = [name, title, date].find((one): one is string => typeof one === 'string' && one !== '') ?? '';
  return typeof artist === 'string' && artist !== '' && typeof title === 'string' ? `${title}, ${artist}` : main;
}

/** `startDate` becomes “start date”, `durationMs` “duration (ms)”. */
function fieldWords(key: string): string {
  const words = key.replaceAll(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();
  return words.replace(/ ms$/, ' (ms)');
}

function wordsOf(value: unknown): string {
  if (typeof value === 'string') return value;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  const plain = (one: unknown): boolean => typeof one === 'string' || typeof one === 'number';
  if (!Array.isArray(value)) return momentWords(value as Readonly<Record<string, unknown>>) ?? JSON.stringify(value);
  return value.every(plain) ? value.join(', ') : `${value.length} entries`;
}

/** How long songs stay, or when one moves: `4 weeks`, `2026-12-10`, `stays`; null for anything else. */
function momentWords(value: Readonly<Record<string, unknown>>): string | null {
  const { after, unit, kind, date, plays } = value;
  if (typeof after === 'number' && typeof unit === 'string') return `${after} ${unit}`;
  if (kind === 'on' && typeof date === 'string') return date;
  if (kind === 'plays' && typeof plays === 'number') return `after ${plays} plays`;
  return kind === 'stays' ? 'stays' : null;
}

function textOf(value: unknown): string | null {
  if (value === null || value === undefined || value === '') return null;
  const text = wordsOf(value);
  return text.length > LONGEST_VALUE ? `${text.slice(0, LONGEST_VALUE)} …` : text;
}

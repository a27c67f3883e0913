/** The longest id, and the limits of the numbers in an instance file, as its schema has them. */
const LONGEST_ID = 200;
const MOST_SECONDS = 10_000_000;
const FARTHEST = 2_000_000_000;
const LAST_HOUR = 400_000;
const FARTHEST_DAY = 20_000;

/** Keys that the schema drops. */
const UNSAFE: ReadonlySet<string> = new Set(['__proto__', 'prototype', 'constructor']);

type Check = (value: unknown) => boolean;
type Fields = Readonly<Record<string, { readonly check: Check; readonly optional?: true }>>;

const isWhole = (least: number, most: number): Check => {
  return (value) => typeof value === 'number' && Number.isInteger(value) && value >= least && value <= most;
};
const isId: Check = (value) => typeof value === 'string' && value.length > 0 && value.length <= LONGEST_ID;
const isListOf = (check: Check): Check => {
  return (value) => Array.isArray(value) && value.every(check);
};
const isText: Check = (value) => typeof value === 'string';
const isTexts = isListOf(isText);

function isTags(value: unknown): boolean {
  if (!isPlainObject(value)) return false;
  for (const tag in value) if (UNSAFE.has(tag) || !isTexts(value[tag])) return false;
  return true;
}

const needed = (check: Check): { readonly check: Check } => ({ check });
const optional = (check: Check): { readonly check: Check; readonly optional: true } => ({ check, optional: true });

const day = optional(isWhole(-FARTHEST_DAY, FARTHEST_DAY));
const hourOfDay = optional(isWhole(0, 23));
const instant = needed(isWhole(-FARTHEST, FARTHEST));
const ids = optional(isListOf(isId));

const ITEM: Fields = { id: needed(isId), duration: needed(isWhole(0, MOST_SECONDS)), tags: needed(isTags) };
const SLOT: Fields = {
  id: needed(isId),
  start: instant,
  hour: needed(isWhole(0, LAST_HOUR)),
  pool: needed(isId),
  locked: optional(isId),
  exempt: ids,
  uncharged: ids,
  allow: ids,
  day,
  hourOfDay,
};
const PLAY: Fields = { item: needed(isId), start: instant, day, hourOfDay };

/**
 * Whether the long lists of an instance are plainly as its schema asks, with no field it does not know: then the schema,
 * which takes ten times as long, need not read them. What is not plain may be right all the same.
 */
export function hasPlainLists(raw: {
  readonly items?: unknown;
  readonly slots?: unknown;
  readonly history?: unknown;
}): boolean {
  return isPlain(raw.items, ITEM) && isPlain(raw.slots, SLOT) && isPlain(raw.history, PLAY);
}

function isPlain(list: unknown, fields: Fields): boolean {
  return Array.isArray(list) && list.every((one) => isPlainRecord(one, fields));
}

function isPlainRecord(value: unknown, fields: Fields): boolean {
  if (!isPlainObject(value)) return false;
  for (const key in value) if (!Object.hasOwn(fields, key)) return false;
  for (const key in fields) {
    const field = fields[key]!;
    if (value[key] === undefined ? !field.optional : !field.check(value[key])) return false;
  }
  return true;
}

/** An object as JSON makes one: nothing inherited that could pass for a field. */
function isPlainObject(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === 'object' && value !== null && Object.getPrototypeOf(value) === Object.prototype;
}

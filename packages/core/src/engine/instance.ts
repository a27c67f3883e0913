import * as v from 'valibot';
import { InstanceRule } from '../rules/shapes.js';
import { hasPlainLists } from './plain-lists.js';
import { HistoryPlay, InstanceItem, InstancePool, InstanceSlot, type DeepReadonly } from '../sequence/parts.js';

/** The most slots an instance may have. */
export const MOST_SLOTS = 100_000;
/** The most items an instance may have. */
export const MOST_ITEMS = 1_000_000;

/** What the engine sees. Times are whole seconds; 0 is the start of the first day, history is negative. */
export const InstanceSchema = v.object({
  format: v.literal('fuller-instance', 'must be fuller-instance'),
  version: v.literal(1, 'must be 1'),
  items: v.pipe(v.array(InstanceItem, 'must be a list'), v.maxLength(MOST_ITEMS, `has more than ${MOST_ITEMS} items`)),
  pools: v.record(v.string(), InstancePool),
  /** In time order. */
  slots: v.pipe(v.array(InstanceSlot, 'must be a list'), v.maxLength(MOST_SLOTS, `has more than ${MOST_SLOTS} slots`)),
  history: v.array(HistoryPlay, 'must be a list'),
  rules: v.pipe(v.array(InstanceRule, 'must be a list'), v.maxLength(1000, 'has more than 1000 rules')),
});

/** A log to be filled, as InstanceSchema describes it; nobody changes one. */
export type Instance = DeepReadonly<v.InferOutput<typeof InstanceSchema>>;

/** An instance that was read, or the path of the first thing wrong with it and what that is. */
export type InstanceResult =
  | { readonly ok: true; readonly instance: Instance }
  | { readonly ok: false; readonly path: string; readonly why: string };

/** Reads an instance from parsed JSON; otherwise the path of the first thing wrong and what is wrong with it. */
export function readInstance(raw: unknown): InstanceResult {
  const tooMany = tooLong(raw);
  if (tooMany) return { ok: false, ...tooMany };
  const parsed = parse(raw);
  if (!parsed.success) {
    const [issue] = parsed.issues;
    return { ok: false, path: pathText(issue), why: whyText(issue) };
  }
  const wrong = checkReferences(parsed.output);
  return wrong ? { ok: false, ...wrong } : { ok: true, instance: parsed.output };
}

/** By the schema; where the long lists are plain, it reads the rest alone. */
function parse(raw: unknown): v.SafeParseResult<typeof InstanceSchema> {
  if (typeof raw !== 'object' || raw === null || !hasPlainLists(raw))
    return v.safeParse(InstanceSchema, raw, { abortEarly: true });
  const rest = v.safeParse(InstanceSchema, { ...raw, items: [], slots: [], history: [] }, { abortEarly: true });
  if (!rest.success) return rest;
  const { items, slots, history } = raw as Pick<v.InferOutput<typeof InstanceSchema>, 'items' | 'slots' | 'history'>;
  return { ...rest, output: { ...rest.output, items, slots, history } };
}

/** Looked at first, so that a file of a million slots is refused without reading each. */
function tooLong(raw: unknown): { path: string; why: string } | null {
  const lists = raw as { slots?: unknown; items?: unknown } | null;
  for (const [path, most] of [
    ['slots', MOST_SLOTS],
    ['items', MOST_ITEMS],
  ] as const) {
    const list = lists?.[path];
    if (Array.isArray(list) && list.length > most)
      return { path, why: `has ${list.length} entries; at most ${most} are taken` };
  }
  return null;
}

function pathText(issue: v.BaseIssue<unknown>): string {
  const keys = issue.path?.map((part) => part.key) ?? [];
  return keys.reduce<string>(
    (text, key) => text + (typeof key === 'number' ? `[${key}]` : `${text ? '.' : ''}${String(key)}`),
    '',
  );
}

function whyText(issue: v.BaseIssue<unknown>): string {
  return issue.message.startsWith('Invalid ')
    ? `must be ${issue.expected ?? 'there'}, not ${issue.received}`
    : issue.message;
}

interface Fault {
  readonly path: string;
  readonly why: string;
}

/** What no single field shows: ids that are missing or stand twice, slots out of order. */
function checkReferences(instance: Instance): Fault | null {
  return (
    twice(instance.items, 'items') ??
    twice(instance.slots, 'slots') ??
    twice(instance.rules, 'rules') ??
    checkPools(instance) ??
    checkSlots(instance) ??
    checkHistory(instance) ??
    checkRules(instance)
  );
}

function twice(list: readonly { readonly id: string }[], name: string): Fault | null {
  const seen = new Set<string>();
  for (const [i, { id: one }] of list.entries()) {
    if (seen.has(one)) return { path: `${name}[${i}].id`, why: `“${one}” stands twice` };
    seen.add(one);
  }
  return null;
}

function unknown(
  ids: readonly string[] | undefined,
  known: ReadonlySet<string>,
  path: string,
  what: string,
): Fault | null {
  const at = ids?.findIndex((one) => !known.has(one)) ?? -1;
  return at >= 0 ? { path: `${path}[${at}]`, why: `no ${what} “${ids![at]!}”` } : null;
}

function checkPools({ items, pools }: Instance): Fault | null {
  const known = new Set(items.map((item) => item.id));
  for (const [name, pool] of Object.entries(pools)) {
    const missing = unknown(pool.items, known, `pools.${name}.items`, 'item');
    if (missing) return missing;
    const seen = new Set<string>();
    for (const [i, one] of pool.items.entries()) {
      if (seen.has(one)) return { path: `pools.${name}.items[${i}]`, why: `“${one}” stands twice` };
      seen.add(one);
    }
    for (const one of Object.keys(pool.weights ?? {})) {
      if (!seen.has(one)) return { path: `pools.${name}.weights.${one}`, why: 'is not an item of the pool' };
    }
  }
  return null;
}

function checkSlots({ items, pools, slots, rules }: Instance): Fault | null {
  const knownItems = new Set(items.map((item) => item.id));
  const knownRules = new Set(rules.map((rule) => rule.id));
  const members = new Map(Object.entries(pools).map(([name, pool]) => [name, new Set(pool.items)]));
  for (const [i, slot] of slots.entries()) {
    const path = `slots[${i}]`;
    const pool = members.get(slot.pool);
    if (!pool) return { path: `${path}.pool`, why: `no pool “${slot.pool}”` };
    const before = slots[i - 1];
    if (before && slot.start < before.start) return { path: `${path}.start`, why: 'is before the slot above it' };
    if (before && slot.hour < before.hour) return { path: `${path}.hour`, why: 'is before that of the slot above it' };
    if (slot.locked !== undefined && !knownItems.has(slot.locked)) {
      return { path: `${path}.locked`, why: `no item “${slot.locked}”` };
    }
    if (slot.locked !== undefined && !pool.has(slot.locked)) {
      return { path: `${path}.locked`, why: `“${slot.locked}” is not in pool “${slot.pool}”` };
    }
    const missing =
      unknown(slot.allow, knownItems, `${path}.allow`, 'item') ??
      unknown(slot.exempt, knownRules, `${path}.exempt`, 'rule') ??
      unknown(slot.uncharged, knownRules, `${path}.uncharged`, 'rule');
    if (missing) return missing;
  }
  return null;
}

function checkHistory({ slots, history }: Instance): Fault | null {
  const first = slots[0]?.start ?? Number.POSITIVE_INFINITY;
  const at = history.findIndex((play) => play.start > first);
  return at >= 0 ? { path: `history[${at}].start`, why: 'is after the first slot' } : null;
}

function checkRules({ pools, rules, slots }: Instance): Fault | null {
  const slotIds = new Set(slots.map(({ id }) => id));
  for (const [i, rule] of rules.entries()) {
    if (rule.strength === 'soft' && rule.rank === undefined) {
      return { path: `rules[${i}].rank`, why: 'is missing; a soft rule needs one' };
    }
    if (rule.shape !== 'apart') continue;
    const missing = Object.keys(rule.secondsByPool ?? {}).find((name) => !Object.hasOwn(pools, name));
    if (missing !== undefined) return { path: `rules[${i}].secondsByPool.${missing}`, why: `no pool “${missing}”` };
    const slot = Object.keys(rule.secondsBySlot ?? {}).find((id) => !slotIds.has(id));
    if (slot !== undefined) return { path: `rules[${i}].secondsBySlot.${slot}`, why: `no slot “${slot}”` };
  }
  return null;
}

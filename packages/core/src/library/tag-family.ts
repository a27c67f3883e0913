import { nameKey } from '../text/fold.js';
import type { TagValue } from './tags.js';

/** A value as it is to be: `was` names the value it comes from, null for a new one. */
export interface NextValue extends TagValue {
  readonly was: string | null;
}

/** The values of a family after a change, or why it is refused. */
export type FamilyChange =
  | {
      readonly ok: true;
      readonly values: readonly TagValue[];
      /** Where each value that goes or is renamed goes to; null to nowhere. */
      readonly moved: ReadonlyMap<string, string | null>;
    }
  | { readonly ok: false; readonly why: string };

/**
 * The values of a family after a change. A value that is in use and neither kept nor told where its items go is refused;
 * so are two values of one name.
 */
export function changeValues(
  before: readonly TagValue[],
  next: readonly NextValue[],
  /** Where items of values that go are put; null takes the value off them. */
  gone: Readonly<Record<string, string | null>>,
  /** How many items have each value. */
  items: ReadonlyMap<string, number>,
): FamilyChange {
  const keys = new Map<string, string>();
  for (const { value } of next) {
    const twin = keys.get(nameKey(value));
    if (twin !== undefined) return { ok: false, why: `“${value}” and “${twin}” are one value.` };
    keys.set(nameKey(value), value);
  }
  const moved = new Map<string, string | null>();
  for (const { was, value } of next) if (was !== null && was !== value) moved.set(was, value);
  const kept = new Set(next.map(({ was }) => was));
  for (const { value } of before) {
    if (kept.has(value)) continue;
    const count = items.get(value) ?? 0;
    const to = gone[value];
    if (to === undefined && count > 0)
      return {
        ok: false,
        why: `“${value}” is on ${count === 1 ? 'an item' : `${count} items`}; say what takes its place.`,
      };
    if (typeof to === 'string' && !next.some((one) => one.value === to))
      return { ok: false, why: `There is no value “${to}” to take the place of “${value}”.` };
    moved.set(value, to ?? null);
  }
  return { ok: true, values: next.map(({ value, code, colour }) => ({ value, code, colour })), moved };
}

/** An item's values after the values of their family have moved. */
export function movedValues(values: readonly string[], moved: ReadonlyMap<string, string | null>): string[] {
  const after = values.flatMap((value) => {
    const to = moved.get(value);
    return to === undefined ? [value] : to === null ? [] : [to];
  });
  return [...new Set(after)];
}

/** The value a text means: by its name or its code, in any spelling; null when it is none of these. */
export function valueMeant(text: string, values: readonly TagValue[]): string | null {
  const key = nameKey(text);
  const found =
    values.find(({ value }) => nameKey(value) === key) ?? values.find(({ code }) => code && nameKey(code) === key);
  return found?.value ?? null;
}

import type { EntityKind, Row } from '../store/change-set.js';
import { ENTITY_KINDS } from '../store/entity-kinds.js';
import type { Em } from '../db/orm.js';
import { FullerError } from '../errors.js';
import type { Reference } from './references.js';

const FRESH = { disableIdentityMap: true } as const;

/** The kinds of row that can be shared, and what a person calls them. */
export const SHARED_THINGS = {
  category: 'category',
  pool: 'pool',
  setList: 'set list',
  clock: 'clock',
  rule: 'rule',
} as const;
export type SharedThing = keyof typeof SHARED_THINGS;

/** A named thing as a row; `thing` where it can be shared. */
export async function findNamed(
  em: Em,
  { kind, id }: Reference,
): Promise<{ thing: SharedThing | null; row: Row } | null> {
  const candidates: readonly EntityKind[] = kind === 'source' ? ['category', 'pool'] : [kind];
  for (const thing of candidates) {
    const row = (await em.findOne(ENTITY_KINDS[thing] as never, { id } as never, FRESH)) as Row | null;
    if (row) return { thing: Object.hasOwn(SHARED_THINGS, thing) ? (thing as SharedThing) : null, row: { ...row } };
  }
  return null;
}

/** Throws INVALID where a shared thing would name what belongs to one station, or an own one what another station has. */
export async function mustBeSeen(
  em: Em,
  references: readonly Reference[],
  owner: string | null,
  fieldOf: (reference: Reference) => string,
): Promise<void> {
  for (const reference of references) {
    const found = await findNamed(em, reference);
    const of = (found?.row['stationId'] as string | null | undefined) ?? null;
    if (!found || of === null || of === owner) continue;
    const name = (found.row['name'] ?? found.row['title']) as string;
    throw new FullerError(
      'INVALID',
      owner === null
        ? `“${name}” belongs to one station, and this is shared; share “${name}” first.`
        : `“${name}” belongs to another station.`,
      fieldOf(reference),
    );
  }
}

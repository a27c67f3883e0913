import type { Em } from '../db/orm.js';
import { findNamed } from './seen-by-all.js';
import { namersOf, useWords } from './namers.js';
import { referencesOf } from './references.js';

/** Things that name what their station does not see: what is gone, and what belongs to another station, in words. */
export async function namingUnseen(em: Em): Promise<{ readonly gone: string[]; readonly foreign: string[] }> {
  const [gone, foreign]: [string[], string[]] = [[], []];
  const owners = new Map<string, { readonly name: string; readonly stationId: string | null } | null>();
  for (const namer of await namersOf(em))
    for (const reference of referencesOf(namer.thing, namer.row)) {
      const key = `${reference.kind} ${reference.id}`;
      let named = owners.get(key);
      if (named === undefined) {
        const found = await findNamed(em, reference);
        named = found && {
          name: (found.row['name'] ?? found.row['title']) as string,
          stationId: (found.row['stationId'] as string | null | undefined) ?? null,
        };
        owners.set(key, named);
      }
      if (named === null) gone.push(useWords(namer.use));
      // A shared rule names the copies stations have of its places, so that it applies there as before.
      else if (named.stationId !== null && named.stationId !== namer.stationId && !isRuleOfAll(namer))
        foreign.push(`${useWords(namer.use)}: ${named.name}`);
    }
  return { gone, foreign };
}

function isRuleOfAll({ thing, stationId }: { readonly thing: string; readonly stationId: string | null }): boolean {
  return thing === 'rule' && stationId === null;
}

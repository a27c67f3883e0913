import { GROUP_RIGHTS, includesRight, mayWith, roleAt, type Right, type RoleAt } from '@fuller/contracts';

/** Who asks, and what they may do. */
export interface Caller {
  /** Null for programs, and where there are no accounts. */
  readonly personId: string | null;
  readonly name: string | null;
  readonly sessionId: string | null;
  /** Whether they must give themselves another password before anything else. */
  readonly mustChange: boolean;
  /** Whether they may do something at a station; without one, at any. */
  may(right: Right, stationId?: string | null): boolean;
  /** The shows at a station within which a presenter may change the log. */
  showsAt(stationId: string): ReadonlySet<string>;
}

const NOBODY = {
  personId: null,
  name: null,
  sessionId: null,
  mustChange: false,
  showsAt: (): ReadonlySet<string> => new Set(),
} as const;

/** Somebody who has not signed in. */
export const STRANGER: Caller = { ...NOBODY, may: (right) => right === 'anybody' };

/** Whoever works on the data folder itself, or uses Fuller without accounts. */
export const OWNER: Caller = { ...NOBODY, may: () => true };

/** Another program, with the rights its token was given. */
export function programCaller(name: string, rights: readonly Right[], stationIds: readonly string[] | null): Caller {
  return {
    ...NOBODY,
    name,
    may: (right, stationId) => {
      if (right === 'anybody' || right === 'own') return true;
      if (!includesRight(rights, right)) return false;
      if (GROUP_RIGHTS.includes(right)) return stationIds === null;
      return stationIds === null || !stationId || stationIds.includes(stationId);
    },
  };
}

/** A person in a browser. */
export function personCaller(
  { id, name, roles }: { readonly id: string; readonly name: string; readonly roles: readonly RoleAt[] },
  sessionId: string,
  mustChange: boolean,
): Caller {
  return {
    personId: id,
    name,
    sessionId,
    mustChange,
    may: (right, stationId) =>
      right === 'anybody' || right === 'own' || (!mustChange && mayWith(roles, right, stationId)),
    showsAt: (stationId) => new Set(roleAt(roles, stationId)?.showIds ?? []),
  };
}

import { RIGHTS, RIGHTS_OF, GROUP_RIGHTS, type Right, type RoleAt } from '@fuller/contracts';

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

const NO_SHOWS: ReadonlySet<string> = new Set();

/** A right that another one brings along. */
const BROUGHT_BY: Partial<Record<Right, Right>> = { present: 'logs', traffic: 'logs' };

/** Whoever works on the data folder itself, or uses Fuller without accounts. */
export function ownerCaller(): Caller {
  return {
    personId: null,
    name: null,
    sessionId: null,
    mustChange: false,
    may: (right) => right === 'anybody' || RIGHTS.includes(right),
    showsAt: () => NO_SHOWS,
  };
}

export function programCaller(name: string, rights: readonly Right[], stationIds: readonly string[] | null): Caller {
  const held = new Set<Right>(rights);
  return {
    personId: null,
    name,
    sessionId: null,
    mustChange: false,
    may: (right, stationId) => {
      if (right === 'anybody' || right === 'own') return true;
      if (!has(held, right)) return false;
      if (GROUP_RIGHTS.includes(right)) return stationIds === null;
      return stationIds === null || stationId == null || stationIds.includes(stationId);
    },
    showsAt: () => NO_SHOWS,
  };
}

export function personCaller(
  { id, name, roles }: { readonly id: string; readonly name: string; readonly roles: readonly RoleAt[] },
  sessionId: string,
  mustChange: boolean,
): Caller {
  const everywhere = roles.find(({ stationId }) => stationId === null);
  const at = (stationId: string): RoleAt | undefined => roles.find((one) => one.stationId === stationId) ?? everywhere;
  return {
    personId: id,
    name,
    sessionId,
    mustChange,
    may: (right, stationId) => {
      if (right === 'anybody' || right === 'own') return true;
      if (mustChange) return false;
      if (GROUP_RIGHTS.includes(right)) return everywhere?.role === 'director';
      const asked = stationId == null ? roles : [at(stationId)];
      return asked.some((one) => one !== undefined && has(new Set(RIGHTS_OF[one.role]), right));
    },
    showsAt: (stationId) => new Set(at(stationId)?.showIds ?? []),
  };
}

function has(rights: ReadonlySet<Right>, right: Right): boolean {
  const brought = BROUGHT_BY[right];
  return rights.has(right) || (brought !== undefined && rights.has(brought));
}

/** Somebody who has not signed in. */
export const STRANGER: Caller = {
  personId: null,
  name: null,
  sessionId: null,
  mustChange: false,
  may: (right) => right === 'anybody',
  showsAt: () => NO_SHOWS,
};

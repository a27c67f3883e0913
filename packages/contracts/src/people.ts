import * as v from 'valibot';
import { Id, Name, Revision } from './basics.js';
import { RIGHTS, type Right } from './rights.js';

/** What a person is at a station. */
export const ROLES = ['director', 'traffic', 'presenter', 'viewer'] as const;
export type Role = (typeof ROLES)[number];

const READS: readonly Right[] = ['own', 'look'];
/** Rights that touch people, stations or the data folder as a whole: a director of every station has them. */
export const GROUP_RIGHTS: readonly Right[] = ['people', 'stations', 'care'];
/** What each role may do at its station. */
export const RIGHTS_OF: Readonly<Record<Role, readonly Right[]>> = {
  director: RIGHTS,
  traffic: [...READS, 'undo', 'traffic'],
  presenter: [...READS, 'undo', 'present'],
  viewer: READS,
};

/** The role of a person at one station, or at every one. */
export const RoleAt = v.object({
  /** Null for every station there is and will be. */
  stationId: v.nullable(Id),
  role: v.picklist(ROLES),
  /** The shows a presenter presents; no others may be changed. */
  showIds: v.pipe(v.array(Id), v.maxLength(100)),
});
export type RoleAt = v.InferOutput<typeof RoleAt>;

const LEAST_PASSWORD = 10;
const MOST_PASSWORD = 200;
/** A password as it is chosen. */
export const NewPassword = v.pipe(
  v.string(),
  v.minLength(LEAST_PASSWORD, `is shorter than ${LEAST_PASSWORD} characters`),
  v.maxLength(MOST_PASSWORD, `is longer than ${MOST_PASSWORD} characters`),
);
/** A password as it is given; what is wrong with it is not told. */
export const GivenPassword = v.pipe(v.string(), v.maxLength(MOST_PASSWORD));

const roles = v.pipe(
  v.array(RoleAt),
  v.minLength(1, 'are none: a person needs a role'),
  v.maxLength(200),
  v.check((all) => new Set(all.map(({ stationId }) => stationId)).size === all.length, 'name a station more than once'),
);

export const NewPerson = v.strictObject({ name: Name, password: NewPassword, roles });
export type NewPerson = v.InferOutput<typeof NewPerson>;

export const PersonPatch = v.strictObject({ revision: Revision, name: v.optional(Name), roles: v.optional(roles) });
export type PersonPatch = v.InferOutput<typeof PersonPatch>;

export const PersonRow = v.object({
  id: Id,
  revision: Revision,
  name: v.string(),
  roles: v.array(RoleAt),
  /** Whether the next sign-in asks for another password. */
  mustChange: v.boolean(),
  createdMs: v.number(),
  /** When they were last seen, UTC epoch milliseconds; null for never. */
  seenMs: v.nullable(v.number()),
  /** In how many browsers they are signed in. */
  sessions: v.number(),
});
export type PersonRow = v.InferOutput<typeof PersonRow>;

/** How far the server knows who asks. */
export const SESSION_STATES = ['set-up', 'signed-out', 'signed-in', 'open'] as const;

export const SessionView = v.object({
  /** `set-up` before the first account; `open` where accounts are not used. */
  state: v.picklist(SESSION_STATES),
  person: v.nullable(v.object({ id: Id, name: v.string(), mustChange: v.boolean() })),
  roles: v.array(RoleAt),
  /** Names of demo accounts that sign in by one press. */
  demo: v.array(v.object({ role: v.picklist(ROLES), name: v.string() })),
  /** Whether the first account needs the code that the server printed when it started. */
  needsCode: v.boolean(),
  /** Whether Fuller may be used without accounts, as it answers this computer alone. */
  mayBeOpen: v.boolean(),
});
export type SessionView = v.InferOutput<typeof SessionView>;

export const SignIn = v.strictObject({ name: Name, password: GivenPassword });
export const FirstPerson = v.strictObject({
  name: Name,
  password: NewPassword,
  code: v.optional(v.pipe(v.string(), v.maxLength(40)), ''),
});
export const DemoSignIn = v.strictObject({ role: v.picklist(ROLES) });
export const PasswordChange = v.strictObject({ old: GivenPassword, password: NewPassword });
export const PasswordReset = v.strictObject({ password: NewPassword });

/** One browser in which a person is signed in. */
export const SessionRow = v.object({
  id: Id,
  createdMs: v.number(),
  seenMs: v.number(),
  address: v.string(),
  /** The browser as it names itself. */
  agent: v.string(),
  /** Whether it is the one that asks. */
  own: v.boolean(),
});
export type SessionRow = v.InferOutput<typeof SessionRow>;

export const NewToken = v.strictObject({
  name: Name,
  rights: v.pipe(v.array(v.picklist(RIGHTS)), v.minLength(1, 'are none: a token needs a right')),
  /** Null for every station. */
  stationIds: v.nullable(v.pipe(v.array(Id), v.minLength(1, 'are none: a token needs a station'))),
  /** Days until it ends; null for never. */
  days: v.nullable(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(3650))),
});
export type NewToken = v.InferOutput<typeof NewToken>;

export const TokenRow = v.object({
  id: Id,
  name: v.string(),
  rights: v.array(v.picklist(RIGHTS)),
  stationIds: v.nullable(v.array(Id)),
  madeBy: v.string(),
  createdMs: v.number(),
  usedMs: v.nullable(v.number()),
  expiresMs: v.nullable(v.number()),
});
export type TokenRow = v.InferOutput<typeof TokenRow>;

/** Told once: only a hash of the token is kept. */
export const TokenMade = v.object({ id: Id, token: v.string() });

/** The role that counts at a station: its own, or the one for every station. */
export function roleAt(roles: readonly RoleAt[], stationId: string): RoleAt | null {
  return roles.find((one) => one.stationId === stationId) ?? roles.find((one) => one.stationId === null) ?? null;
}

/** Whether roles include a right at a station; without one, at any. Rights of the group need a director of every station. */
export function mayWith(roles: readonly RoleAt[], right: Right, stationId: string | null | undefined): boolean {
  if (right === 'anybody' || right === 'own') return true;
  const everywhere = roles.find((one) => one.stationId === null);
  if (GROUP_RIGHTS.includes(right)) return everywhere?.role === 'director';
  const asked = stationId === null || stationId === undefined ? roles : [roleAt(roles, stationId)];
  return asked.some((one) => one !== null && includesRight(RIGHTS_OF[one.role], right));
}

/** A right that another one brings along. */
const BROUGHT_BY: Partial<Record<Right, Right>> = { present: 'logs', traffic: 'logs' };

/** Whether some rights include one, itself or by one that brings it along. */
export function includesRight(held: readonly Right[], right: Right): boolean {
  const brought = BROUGHT_BY[right];
  return held.includes(right) || (brought !== undefined && held.includes(brought));
}

import type { Right, RoleAt } from '@fuller/contracts';
import { defineEntity, p, type InferEntity } from '@mikro-orm/core';

/** Somebody with an account. What they sign in with stands elsewhere, so that no activity ever holds it. */
export const PersonEntity = defineEntity({
  name: 'Person',
  tableName: 'person',
  properties: {
    id: p.string().primary(),
    revision: p.integer(),
    name: p.string(),
    nameKey: p.string(),
    roles: p.json<RoleAt[]>(),
    /** Whether a demo signs in to it by one press. */
    demo: p.boolean(),
    createdMs: p.bigint('number'),
  },
});
export type PersonRecord = InferEntity<typeof PersonEntity>;

/** What a person signs in with, under the person’s id. */
export const CredentialEntity = defineEntity({
  name: 'Credential',
  tableName: 'credential',
  properties: { id: p.string().primary(), hash: p.string(), mustChange: p.boolean() },
});
export type CredentialRecord = InferEntity<typeof CredentialEntity>;

/** A browser in which a person is signed in. */
export const SessionEntity = defineEntity({
  name: 'Session',
  tableName: 'session',
  properties: {
    id: p.string().primary(),
    personId: p.string(),
    tokenHash: p.string(),
    createdMs: p.bigint('number'),
    seenMs: p.bigint('number'),
    address: p.string(),
    agent: p.string(),
  },
});
export type SessionRecord = InferEntity<typeof SessionEntity>;

/** What another program shows to be let in. */
export const AccessTokenEntity = defineEntity({
  name: 'AccessToken',
  tableName: 'access_token',
  properties: {
    id: p.string().primary(),
    name: p.string(),
    tokenHash: p.string(),
    rights: p.json<Right[]>(),
    stationIds: p.json<string[]>().nullable(),
    madeBy: p.string(),
    createdMs: p.bigint('number'),
    usedMs: p.bigint('number').nullable(),
    expiresMs: p.bigint('number').nullable(),
  },
});
export type AccessTokenRecord = InferEntity<typeof AccessTokenEntity>;

/** Whether Fuller is used without accounts; no row where that was never decided. */
export const AccessSettingEntity = defineEntity({
  name: 'AccessSetting',
  tableName: 'access_setting',
  properties: { id: p.string().primary(), open: p.boolean() },
});

/** When backups are made by themselves; no row where that was never set. */
export const BackupSettingEntity = defineEntity({
  name: 'BackupSetting',
  tableName: 'backup_setting',
  properties: {
    id: p.string().primary(),
    nightlyAt: p.string().nullable(),
    kept: p.integer(),
    folder: p.string(),
    /** The day by the first station’s clock on which one was last made by itself. */
    lastDate: p.string().nullable(),
  },
});

import { NewPassword, type NewPerson, type PersonPatch, type PersonRow, type RoleAt } from '@fuller/contracts';
import { nameKey } from '@fuller/core';
import type { Actor } from '../actor.js';
import {
  CredentialEntity,
  PersonEntity,
  StationEntity,
  type CredentialRecord,
  type PersonRecord,
} from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError, notFound } from '../errors.js';
import { newId } from '../ids.js';
import type { ChangeSet } from '../store/change-set.js';
import type { Store, Written } from '../store/store.js';
import * as v from 'valibot';
import { hashOf, isPassword, NOBODYS_HASH } from './passwords.js';
import type { SessionBook } from './session-book.js';

const EVERYWHERE: RoleAt = { stationId: null, role: 'director', showIds: [] };

/** Accounts and what they may do. */
export class PeopleService {
  constructor(
    private readonly store: Store,
    private readonly sessions: SessionBook,
    private readonly now: () => number,
  ) {
    store.undoing.onRevert('person', async (changes, change) => {
      await changes.revert('person', [change]);
      await mustHaveDirector(changes.em);
    });
    store.undoing.onRevert('secret', async () => {
      throw new FullerError('CANNOT_UNDO', 'Passwords and tokens cannot be brought back; give new ones.');
    });
  }

  async list(): Promise<PersonRow[]> {
    const people = await this.store.read.find(PersonEntity, {}, { orderBy: { nameKey: 'asc' } });
    const credentials = await this.store.read.find(CredentialEntity, {});
    const mustChange = new Set(credentials.filter((one) => one.mustChange).map(({ id }) => id));
    return Promise.all(
      people.map(async ({ id, revision, name, roles, createdMs }) => {
        const sessions = await this.sessions.of(id);
        return {
          id,
          revision,
          name,
          roles,
          createdMs,
          mustChange: mustChange.has(id),
          seenMs: sessions[0]?.seenMs ?? null,
          sessions: sessions.length,
        };
      }),
    );
  }

  async find(id: string): Promise<PersonRecord | null> {
    return this.store.read.findOne(PersonEntity, { id });
  }

  async mustFind(id: string): Promise<PersonRecord> {
    const person = await this.find(id);
    if (!person) throw notFound('account', id);
    return person;
  }

  credentialOf(id: string): Promise<CredentialRecord | null> {
    return this.store.read.findOne(CredentialEntity, { id });
  }

  async count(): Promise<number> {
    return this.store.read.count(PersonEntity, {});
  }

  /** Accounts that sign in to a demo by one press. */
  demo(): Promise<PersonRecord[]> {
    return this.store.read.find(PersonEntity, { demo: true }, { orderBy: { createdMs: 'asc' } });
  }

  /** The person a name and a password belong to; null where they do not. It takes as long whether or not the name is known. */
  async identify(name: string, password: string): Promise<PersonRecord | null> {
    const person = await this.store.read.findOne(PersonEntity, { nameKey: nameKey(name) });
    const credential = person && (await this.credentialOf(person.id));
    const right = await isPassword(password, credential?.hash ?? NOBODYS_HASH);
    return right && credential ? person : null;
  }

  /** Makes the first account, the director of every station; refused where there is one. */
  async first(clientId: string, name: string, password: string): Promise<string> {
    refuseWeak(name, password);
    const hash = await hashOf(password);
    const label = `First account ${name}`;
    const { value } = await this.store.write({ clientId, stationId: null, label }, async (changes) => {
      if ((await changes.em.count(PersonEntity, {})) > 0)
        throw new FullerError('CONFLICT', 'There is an account already; sign in with it.');
      return this.insert(changes, { name, roles: [EVERYWHERE] }, hash, false);
    });
    return value;
  }

  async create({ clientId }: Actor, { name, password, roles }: NewPerson, demo = false): Promise<Written<string>> {
    refuseWeak(name, password);
    const hash = await hashOf(password);
    return this.store.write({ clientId, stationId: null, label: `New account ${name}` }, async (changes) => {
      await refuseTaken(changes.em, name, null);
      await mustKnowStations(changes.em, roles);
      return this.insert(changes, { name, roles, demo }, hash, !demo);
    });
  }

  private async insert(
    changes: ChangeSet,
    { name, roles, demo = false }: { name: string; roles: readonly RoleAt[]; demo?: boolean },
    hash: string,
    mustChange: boolean,
  ): Promise<string> {
    const id = newId();
    const createdMs = this.now();
    await changes.insert('person', [{ id, revision: 1, name, nameKey: nameKey(name), roles, demo, createdMs }]);
    await changes.em.insert(CredentialEntity, { id, hash, mustChange });
    return id;
  }

  async update({ clientId }: Actor, id: string, { revision, ...patch }: PersonPatch): Promise<Written<void>> {
    const { name } = await this.mustFind(id);
    const label = patch.roles ? `Roles of ${patch.name ?? name}` : `Rename account ${name}`;
    return this.store.write({ clientId, stationId: null, label }, async (changes) => {
      if (patch.name !== undefined) await refuseTaken(changes.em, patch.name, id);
      if (patch.roles) await mustKnowStations(changes.em, patch.roles);
      const key = patch.name === undefined ? {} : { nameKey: nameKey(patch.name) };
      await changes.update('person', id, { ...patch, ...key }, revision);
      await mustHaveDirector(changes.em);
    });
  }

  async remove({ clientId }: Actor, id: string): Promise<Written<void>> {
    const { name } = await this.mustFind(id);
    const written = await this.store.write(
      { clientId, stationId: null, label: `Remove account ${name}` },
      async (changes) => {
        await changes.remove('person', id);
        await mustHaveDirector(changes.em);
      },
    );
    await this.sessions.endAllOf(id);
    return written;
  }

  /** Gives a person another password; every session but one ends. Nothing of it is kept in the activity but that it was done. */
  async setPassword(
    { clientId }: Actor,
    id: string,
    password: string,
    { mustChange, butSession }: { readonly mustChange: boolean; readonly butSession: string | null },
  ): Promise<void> {
    const { name } = await this.mustFind(id);
    refuseWeak(name, password);
    const hash = await hashOf(password);
    await this.store.write({ clientId, stationId: null, label: `Password of ${name}` }, async (changes) => {
      await changes.em.upsert(CredentialEntity, { id, hash, mustChange });
      changes.record({ thing: 'secret', thingId: id, before: null, after: null });
    });
    await this.sessions.endAllOf(id, butSession);
  }
}

/** A password that is the name, or one character over and over, is the first that is tried. */
function refuseWeak(name: string, password: string): void {
  const read = v.safeParse(NewPassword, password);
  if (!read.success) throw new FullerError('INVALID', `The password ${read.issues[0].message}.`, 'password');
  const key = nameKey(password);
  if (new Set(key).size < 4 || key === nameKey(name) || key.replaceAll(nameKey(name), '').length < 4)
    throw new FullerError('INVALID', 'The password is too easy to guess; take several words.', 'password');
}

async function refuseTaken(em: Em, name: string, butId: string | null): Promise<void> {
  const taken = await em.findOne(PersonEntity, { nameKey: nameKey(name) });
  if (taken && taken.id !== butId)
    throw new FullerError('NAME_TAKEN', `There is an account “${taken.name}” already.`, 'name');
}

async function mustKnowStations(em: Em, roles: readonly RoleAt[]): Promise<void> {
  const known = new Set((await em.find(StationEntity, {})).map(({ id }) => id));
  const unknown = roles.find(({ stationId }) => stationId !== null && !known.has(stationId));
  if (unknown) throw notFound('station', unknown.stationId!);
}

/** Somebody must be able to make accounts, or nobody ever could again. */
async function mustHaveDirector(em: Em): Promise<void> {
  const people = await em.find(PersonEntity, {}, { disableIdentityMap: true });
  const head = people.some(({ roles }) =>
    roles.some(({ stationId, role }) => stationId === null && role === 'director'),
  );
  if (!head) throw new FullerError('IN_USE', 'One account must stay director of every station.');
}

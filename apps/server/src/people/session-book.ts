import { createHash, randomBytes } from 'node:crypto';
import type { SessionRow } from '@fuller/contracts';
import { SessionEntity, type SessionRecord } from '../db/entities/index.js';
import { newId } from '../ids.js';
import type { Store } from '../store/store.js';

const DAY_MS = 86_400_000;
/** A session ends when it was not used for so long, and after so long however it is used. */
export const IDLE_DAYS = 14;
export const LONGEST_DAYS = 90;
/** That a session is in use is written down this often, ms. */
const NOTED_EVERY_MS = 60_000;
const TOKEN_BYTES = 32;

/** Secrets are kept as hashes: who reads the database cannot sign in with it. They are random, so no salt is needed. */
export function secretHash(secret: string): string {
  return createHash('sha256').update(secret).digest('base64url');
}

export function newSecret(): string {
  return randomBytes(TOKEN_BYTES).toString('base64url');
}

/** The browsers in which people are signed in. */
export class SessionBook {
  private kept: Promise<Map<string, SessionRecord>> | null = null;

  constructor(
    private readonly store: Store,
    private readonly now: () => number,
  ) {}

  /** The session of a cookie; null where there is none or it has ended. */
  async find(token: string): Promise<SessionRecord | null> {
    const session = (await this.all()).get(secretHash(token)) ?? (await this.fromElsewhere(token));
    if (!session) return null;
    const nowMs = this.now();
    if (this.isOver(session, nowMs)) {
      await this.end([session.id]);
      return null;
    }
    if (nowMs - session.seenMs > NOTED_EVERY_MS) {
      session.seenMs = nowMs;
      // Nobody waits for it, and a disk that is full does not sign anybody out.
      this.store.quietly((em) => em.nativeUpdate(SessionEntity, { id: session.id }, { seenMs: nowMs })).catch(() => {});
    }
    return session;
  }

  /** A session that another server has begun, and not yet told of. */
  private async fromElsewhere(token: string): Promise<SessionRecord | null> {
    if (!this.store.shared) return null;
    const row = await this.store.read.findOne(SessionEntity, { tokenHash: secretHash(token) });
    if (!row) return null;
    const session = { ...row };
    (await this.all()).set(session.tokenHash, session);
    return session;
  }

  /** What was kept is read again: another server has changed it. */
  forgetKept(): void {
    this.kept = null;
  }

  /** Begins a session; answers the secret that goes into the cookie. */
  async begin(personId: string, address: string, agent: string): Promise<string> {
    const token = newSecret();
    const nowMs = this.now();
    const session: SessionRecord = {
      id: newId(),
      personId,
      tokenHash: secretHash(token),
      createdMs: nowMs,
      seenMs: nowMs,
      address: address.slice(0, 60),
      agent: agent.slice(0, 200),
    };
    const all = await this.all();
    await this.store.quietly((em) => em.insert(SessionEntity, { ...session }));
    all.set(session.tokenHash, session);
    return token;
  }

  async end(ids: readonly string[]): Promise<void> {
    if (ids.length === 0) return;
    const all = await this.all();
    for (const [key, { id }] of all) if (ids.includes(id)) all.delete(key);
    await this.store.quietly((em) => em.nativeDelete(SessionEntity, { id: { $in: [...ids] } }));
    this.store.tellOthers(['session']);
  }

  /** Ends the sessions of a person, all but one where it is named. */
  async endAllOf(personId: string, butId: string | null = null): Promise<void> {
    await this.end((await this.of(personId)).map(({ id }) => id).filter((id) => id !== butId));
  }

  /** The sessions of a person that go on, the latest first. */
  async of(personId: string): Promise<SessionRecord[]> {
    const nowMs = this.now();
    return [...(await this.all()).values()]
      .filter((session) => session.personId === personId && !this.isOver(session, nowMs))
      .sort((a, b) => b.seenMs - a.seenMs);
  }

  private isOver({ createdMs, seenMs }: SessionRecord, nowMs: number): boolean {
    return nowMs - seenMs > IDLE_DAYS * DAY_MS || nowMs - createdMs > LONGEST_DAYS * DAY_MS;
  }

  private all(): Promise<Map<string, SessionRecord>> {
    this.kept ??= this.store.read
      .find(SessionEntity, {})
      .then((rows) => new Map(rows.map((row) => [row.tokenHash, { ...row }])));
    return this.kept;
  }
}

export function viewOf({ id, createdMs, seenMs, address, agent }: SessionRecord, ownId: string | null): SessionRow {
  return { id, createdMs, seenMs, address, agent, own: id === ownId };
}

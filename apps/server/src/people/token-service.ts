import type { NewToken, TokenRow } from '@fuller/contracts';
import type { Actor } from '../actor.js';
import { AccessTokenEntity, StationEntity, type AccessTokenRecord } from '../db/entities/index.js';
import { notFound } from '../errors.js';
import { newId } from '../ids.js';
import { whoAsks } from '../store/asking.js';
import type { Store } from '../store/store.js';
import { newSecret, secretHash } from './session-book.js';

const DAY_MS = 86_400_000;
const NOTED_EVERY_MS = 60_000;
/** Shows what it is, where one is found in a file or a message. */
const PREFIX = 'fuller_';

/** What other programs show to be let in, with chosen rights. */
export class TokenService {
  private kept: Promise<Map<string, AccessTokenRecord>> | null = null;

  constructor(
    private readonly store: Store,
    private readonly now: () => number,
  ) {}

  /** What was kept is read again: another server has changed it. */
  forgetKept(): void {
    this.kept = null;
  }

  async list(): Promise<TokenRow[]> {
    const rows = [...(await this.all()).values()].sort((a, b) => a.createdMs - b.createdMs);
    return rows.map(({ tokenHash: _, stationIds, usedMs, expiresMs, ...row }) => ({
      ...row,
      stationIds: stationIds ?? null,
      usedMs: usedMs ?? null,
      expiresMs: expiresMs ?? null,
    }));
  }

  /** Makes a token; its text is answered once and kept nowhere. */
  async create(
    { clientId }: Actor,
    { name, rights, stationIds, days }: NewToken,
  ): Promise<{ id: string; token: string }> {
    const known = new Set((await this.store.read.find(StationEntity, {})).map(({ id }) => id));
    const unknown = stationIds?.find((id) => !known.has(id));
    if (unknown !== undefined) throw notFound('station', unknown);
    const token = PREFIX + newSecret();
    const nowMs = this.now();
    const row: AccessTokenRecord = {
      id: newId(),
      name,
      tokenHash: secretHash(token),
      rights: [...rights],
      stationIds: stationIds && [...stationIds],
      madeBy: whoAsks().personName ?? '',
      createdMs: nowMs,
      usedMs: null,
      expiresMs: days === null ? null : nowMs + days * DAY_MS,
    };
    await this.write(clientId, `New token ${name}`, row.id, (em) => em.insert(AccessTokenEntity, { ...row }));
    return { id: row.id, token };
  }

  async remove({ clientId }: Actor, id: string): Promise<void> {
    const row = [...(await this.all()).values()].find((one) => one.id === id);
    if (!row) throw notFound('token', id);
    await this.write(clientId, `Remove token ${row.name}`, id, (em) => em.nativeDelete(AccessTokenEntity, { id }));
  }

  /** The token a program shows; null where it is none, or has ended. */
  async find(token: string): Promise<AccessTokenRecord | null> {
    const row = (await this.all()).get(secretHash(token));
    const nowMs = this.now();
    if (!row || (row.expiresMs ?? Infinity) <= nowMs) return null;
    if (nowMs - (row.usedMs ?? 0) > NOTED_EVERY_MS) {
      row.usedMs = nowMs;
      this.store.quietly((em) => em.nativeUpdate(AccessTokenEntity, { id: row.id }, { usedMs: nowMs })).catch(() => {});
    }
    return row;
  }

  /** That a token was made or removed stands in the activity; it cannot be undone. */
  private async write(
    clientId: string,
    label: string,
    id: string,
    work: (em: Store['read']) => Promise<unknown>,
  ): Promise<void> {
    await this.store.write({ clientId, stationId: null, label }, async (changes) => {
      await work(changes.em);
      changes.record({ thing: 'secret', thingId: id, before: null, after: null });
    });
    this.kept = null;
  }

  private all(): Promise<Map<string, AccessTokenRecord>> {
    this.kept ??= this.store.read
      .find(AccessTokenEntity, {})
      .then((rows) => new Map(rows.map((row) => [row.tokenHash, { ...row }])));
    return this.kept;
  }
}

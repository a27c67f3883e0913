import pg from 'pg';
import { newId } from '../../../ids.js';
import type { Others, ToldToOthers } from '../../../store/others.js';
import type { Em } from '../../orm.js';
import { rowsOf } from '../../queries/query.js';

const CHANNEL = 'fuller';
/** PostgreSQL takes less than 8,000 bytes. */
const LONGEST = 7_800;
const AGAIN_AFTER_MS = 1_000;

export interface BusListener {
  hear(told: ToldToOthers): void;
  /** The line was down: anything may have been missed. */
  missed(): void;
  reportFault(error: unknown, about: object): void;
}

/** The line between the servers on one database, by LISTEN and NOTIFY. */
export class ServerBus implements Others {
  private readonly id = newId();
  private client: pg.Client | null = null;
  private sending: Promise<unknown> = Promise.resolve();
  private closed = false;
  private again: NodeJS.Timeout | null = null;

  constructor(
    private readonly url: string,
    private readonly listener: BusListener,
  ) {}

  /** Begins to listen; throws where the database cannot be reached. */
  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url, keepAlive: true, application_name: 'fuller listening' });
    client.on('error', () => this.lost(client));
    client.on('end', () => this.lost(client));
    client.on('notification', ({ payload }) => this.take(payload ?? ''));
    await client.connect();
    await client.query(`listen ${CHANNEL}`);
    this.client = client;
  }

  private take(payload: string): void {
    const { from, told } = JSON.parse(payload) as { from: string; told: ToldToOthers };
    if (from !== this.id) this.listener.hear(told);
  }

  private lost(client: pg.Client): void {
    if (this.closed || (this.client !== null && this.client !== client)) return;
    this.client = null;
    this.again ??= setTimeout(() => {
      this.again = null;
      this.open().then(
        () => this.listener.missed(),
        (error: unknown) => {
          this.listener.reportFault(error, { about: 'the line to the other servers' });
          this.lost(client);
        },
      );
    }, AGAIN_AFTER_MS);
  }

  async tellWith(em: Em, told: ToldToOthers): Promise<void> {
    await rowsOf(em, 'select pg_notify(?, ?)', [CHANNEL, this.written(told)]);
  }

  tell(told: ToldToOthers): void {
    // In the order they are told; what cannot be told is missed by all, and read again when the line is back.
    this.sending = this.sending
      .then(() => this.client?.query('select pg_notify($1, $2)', [CHANNEL, this.written(told)]))
      .catch((error: unknown) => this.listener.reportFault(error, { about: 'the line to the other servers' }));
  }

  private written(told: ToldToOthers): string {
    const text = JSON.stringify({ from: this.id, told });
    return Buffer.byteLength(text) <= LONGEST ? text : JSON.stringify({ from: this.id, told: shorter(told) });
  }

  async close(): Promise<void> {
    this.closed = true;
    if (this.again) clearTimeout(this.again);
    await this.sending;
    await this.client?.end();
  }
}

/** The same in fewer words: what is not named is read again. */
function shorter({ changed, event }: ToldToOthers): ToldToOthers {
  const coarse: ToldToOthers = changed ? { changed: { things: [], logs: [] } } : {};
  if (!event || event.type === 'job') return coarse;
  const { stationId, clientId } = event;
  return { ...coarse, event: { type: 'changed', stationId, clientId, what: ['logs'] } };
}

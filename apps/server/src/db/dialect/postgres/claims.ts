import pg from 'pg';
import { LOCKS } from './turn.js';

/**
 * Claims on work and duties, by advisory locks of connections of their own: a claim ends with the process that holds it, however
 * that ends, so that others can tell what is left behind from what is under way.
 */
export class Claims {
  constructor(
    private readonly url: string,
    private readonly kind: keyof typeof LOCKS,
  ) {}

  /** Holds a claim while work goes on. */
  async while<T>(name: string, work: () => Promise<T>): Promise<T> {
    const claim = await this.take(name);
    if (!claim) throw new Error(`another process works on ${name}`);
    try {
      return await work();
    } finally {
      await claim.end();
    }
  }

  /** Whether nobody works on it. */
  async isFree(name: string): Promise<boolean> {
    const claim = await this.take(name);
    await claim?.end();
    return claim !== null;
  }

  /** Takes a claim, which ends with its connection; null where another has it. */
  async take(name: string): Promise<pg.Client | null> {
    const client = new pg.Client({ connectionString: this.url, keepAlive: true, application_name: `fuller ${name}` });
    client.on('error', () => {});
    try {
      await client.connect();
      const { rows } = await client.query<{ taken: boolean }>(
        'select pg_try_advisory_lock($1, hashtext($2)) as taken',
        [LOCKS[this.kind], name],
      );
      if (rows[0]?.taken) return client;
    } catch (error) {
      await client.end().catch(() => {});
      throw error;
    }
    await client.end();
    return null;
  }
}

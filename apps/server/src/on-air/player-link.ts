import { AsRunSchema } from '@fuller/core';
import { PlayerState } from '@fuller/contracts';
import * as v from 'valibot';
import { FullerError } from '../errors.js';
import type { PlayerAddress } from './on-air-settings.js';

/** A player that does not answer is given up after this, ms. */
const PATIENCE_MS = 4000;
const LONGEST_ANSWER = 8_000_000;

const [AiredRow, MissedRow] = [AsRunSchema.entries.rows.item, AsRunSchema.entries.missed.item];

/** What a player has done since it was asked last. */
const Events = v.object({
  bootId: v.string(),
  coveredUntilMs: v.pipe(v.number(), v.integer()),
  events: v.array(
    v.variant('type', [
      v.object({ type: v.picklist(['started', 'aired']), n: v.number(), row: AiredRow }),
      v.object({ type: v.literal('missed'), n: v.number(), row: MissedRow }),
    ]),
  ),
});
export type PlayerEvents = v.InferOutput<typeof Events>;

/** Why a player could not be asked, in words. */
export class PlayerUnreachable extends Error {}

/** Asks a player by HTTP. */
export class PlayerLink {
  constructor(private readonly address: PlayerAddress) {}

  state(): Promise<PlayerState> {
    return this.ask('GET', '/state', PlayerState);
  }

  eventsAfter(n: number): Promise<PlayerEvents> {
    return this.ask('GET', `/as-run?after=${n}`, Events);
  }

  /** Throws DEVICE with the player's words where it refuses. */
  async send(method: 'POST' | 'PUT' | 'DELETE', path: string, body?: object): Promise<void> {
    await this.ask(method, path, v.unknown(), body);
  }

  private async ask<S extends v.GenericSchema>(
    method: string,
    path: string,
    schema: S,
    body?: object,
  ): Promise<v.InferOutput<S>> {
    const { url, token } = this.address;
    const response = await fetch(`${url}${path}`, {
      method,
      headers: { authorization: `Bearer ${token}`, ...(body ? { 'content-type': 'application/json' } : {}) },
      ...(body ? { body: JSON.stringify(body) } : {}),
      redirect: 'error',
      signal: AbortSignal.timeout(PATIENCE_MS),
    }).catch((error: unknown) => {
      throw new PlayerUnreachable(whyUnreachable(error, url));
    });
    const text = await response.text().catch(() => '');
    if (text.length > LONGEST_ANSWER) throw new PlayerUnreachable(`${url} answers more than a player would.`);
    const answer = parsed(text);
    if (response.status === 401) throw new PlayerUnreachable(`${url} does not accept the token.`);
    if (!response.ok) throw new FullerError('DEVICE', whyOf(answer) ?? `The player answered ${response.status}.`);
    const read = v.safeParse(schema, answer);
    if (!read.success) throw new PlayerUnreachable(`${url} answers, but not as a player does.`);
    return read.output;
  }
}

function whyUnreachable(error: unknown, url: string): string {
  if (error instanceof Error && error.name === 'TimeoutError') return `${url} does not answer.`;
  return `Nobody answers at ${url}.`;
}

function whyOf(answer: unknown): string | null {
  return typeof answer === 'object' && answer !== null && 'why' in answer ? String(answer.why).slice(0, 300) : null;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return null;
  }
}

import pRetry, { AbortError } from 'p-retry';
import type { OutputFile } from './output-files.js';

/** Another machine that takes files by HTTP (WebDAV, RFC 4918). */
export interface Receiver {
  readonly url: string;
  readonly user: string;
  readonly password: string;
}

export interface SendOptions {
  readonly signal: AbortSignal;
  /** So often a file is tried again, each time after twice the wait. */
  readonly retries: number;
  /** Before the first new try, ms. */
  readonly waitMs: number;
  readonly onProgress: (share: number, doing: string) => void;
}

/** A machine that does not answer is waited for so long, ms. */
const PATIENCE_MS = 20_000;
/** Answers of a machine that will answer the same again: wrong password, no right, no such place. */
const HOPELESS: ReadonlySet<number> = new Set([400, 401, 403, 404, 405, 413, 415]);

/**
 * Sends files one after the other, the last one last; each is put beside its place and moved there where the machine can
 * do that. Throws in words where one cannot be sent.
 */
export async function sendFiles(
  to: Receiver,
  files: readonly OutputFile[],
  { signal, retries, waitMs, onProgress }: SendOptions,
): Promise<void> {
  for (const [n, file] of files.entries()) {
    onProgress(n / files.length, `Sending ${file.name}`);
    await pRetry(() => send(to, file, signal), {
      retries,
      minTimeout: waitMs,
      factor: 2,
      signal,
      onFailedAttempt: ({ message, retriesLeft }) => {
        if (retriesLeft > 0) onProgress(n / files.length, `${message} Trying again, ${retriesLeft} more times.`);
      },
    });
  }
}

async function send(to: Receiver, { name, bytes }: OutputFile, signal: AbortSignal): Promise<void> {
  const place = addressOf(to, name);
  const beside = addressOf(to, `${name}.fuller-part`);
  const ask = (method: string, url: string, more: RequestInit = {}): Promise<Response> =>
    request(to, { method, url, more, signal, name });
  await expectDone(await ask('PUT', beside, { body: Buffer.from(bytes) }), name);
  const moved = await ask('MOVE', beside, { headers: { destination: place, overwrite: 'T' } });
  if (moved.ok) return;
  if (moved.status !== 405 && moved.status !== 501) await expectDone(moved, name);
  // A plain server cannot move; there the file is written in its place.
  await expectDone(await ask('PUT', place, { body: Buffer.from(bytes) }), name);
  await ask('DELETE', beside);
}

function addressOf({ url }: Receiver, name: string): string {
  return `${url.replace(/\/+$/, '')}/${encodeURIComponent(name)}`;
}

interface Asked {
  readonly method: string;
  readonly url: string;
  readonly more: RequestInit;
  readonly signal: AbortSignal;
  readonly name: string;
}

async function request({ user, password }: Receiver, { method, url, more, signal, name }: Asked): Promise<Response> {
  const credentials = Buffer.from(`${user}:${password}`).toString('base64');
  const authorization: Record<string, string> = user ? { authorization: `Basic ${credentials}` } : {};
  try {
    return await fetch(url, {
      ...more,
      method,
      headers: { ...(more.headers as Record<string, string> | undefined), ...authorization },
      // A password is not carried to wherever a machine points.
      redirect: 'error',
      signal: AbortSignal.any([signal, AbortSignal.timeout(PATIENCE_MS)]),
    });
  } catch (error) {
    signal.throwIfAborted();
    const cause = error instanceof Error ? (error.cause ?? error) : error;
    const why = cause instanceof Error ? (cause as NodeJS.ErrnoException).code || cause.message : String(cause);
    throw new Error(`${name} cannot be sent to ${new URL(url).host}: ${why}.`);
  }
}

async function expectDone(answer: Response, name: string): Promise<void> {
  await answer.body?.cancel();
  if (answer.ok) return;
  const words = `${new URL(answer.url).host} refused ${name}: ${answer.status} ${answer.statusText}.`;
  if (HOPELESS.has(answer.status)) throw new AbortError(words);
  throw new Error(words);
}

import { openAsBlob } from 'node:fs';
import path from 'node:path';
import type { ErrorAnswer, JobView } from '@fuller/contracts';
import { FullerError, type ErrorCode } from '@fuller/server';

const POLL_MS = 300;

/** A running server, asked over HTTP: as whoever can read its data folder, or with a token. */
export class RemoteFuller {
  private constructor(
    readonly url: string,
    private readonly shows: Readonly<Record<string, string>>,
    /** Whether it runs on another computer, whose folders are not this one’s. */
    readonly isElsewhere: boolean,
  ) {}

  /** The server on this computer that has a data folder. */
  static ofOwner({ url, token }: { readonly url: string; readonly token: string }): RemoteFuller {
    return new RemoteFuller(url, { 'x-owner': token }, false);
  }

  /** A server anywhere, by a token that was made there. */
  static withToken(url: string, token: string): RemoteFuller {
    return new RemoteFuller(url.replace(/\/+$/, ''), { authorization: `Bearer ${token}` }, true);
  }

  get<T>(where: string): Promise<T> {
    return this.ask<T>('GET', where);
  }

  send<T>(method: 'POST' | 'PUT' | 'DELETE', where: string, body?: unknown): Promise<T> {
    return this.ask<T>(method, where, JSON.stringify(body ?? {}), { 'content-type': 'application/json' });
  }

  async upload<T>(where: string, file: string): Promise<T> {
    const form = new FormData();
    form.set('file', await openAsBlob(file), path.basename(file));
    return this.ask<T>('POST', where, form);
  }

  /** Waits for a job to end; throws what it failed of. */
  async ended(job: JobView): Promise<JobView> {
    const now = await this.endOf(job);
    if (now.state !== 'done') throw new FullerError('CONFLICT', now.message ?? `“${job.label}” has ended.`);
    return now;
  }

  /** Waits for a job to end, however it does. */
  async endOf(job: JobView): Promise<JobView> {
    for (;;) {
      const now = (await this.get<JobView[]>('jobs')).find(({ id }) => id === job.id);
      if (!now) throw new FullerError('NOT_FOUND', `“${job.label}” is not known to the server any more.`);
      if (now.state !== 'running') return now;
      await new Promise((resolve) => setTimeout(resolve, POLL_MS));
    }
  }

  private async ask<T>(method: string, where: string, body?: BodyInit, more: Record<string, string> = {}): Promise<T> {
    const headers = { 'x-client': 'command-line', ...this.shows, ...more };
    const answer = await fetch(`${this.url}/api/${where}`, { method, headers, ...(body ? { body } : {}) }).catch(() => {
      throw new FullerError('UNEXPECTED', `The server at ${this.url} does not answer.`);
    });
    const value = (await answer.json().catch(() => ({}))) as unknown;
    if (answer.ok) return value as T;
    const { code, message, field } = value as ErrorAnswer;
    throw new FullerError(
      (code as ErrorCode | undefined) ?? 'UNEXPECTED',
      message ?? `The server answered ${answer.status}.`,
      field,
    );
  }
}

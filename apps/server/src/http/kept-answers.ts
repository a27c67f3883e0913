import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import type { Request, Response } from 'express';
import type { ReadingThread } from '../readers/reading-thread.js';
import { Kept } from '../store/kept.js';
import type { Revisions } from '../store/revisions.js';
import type { AnyRoute } from './route.js';

const compress = promisify(gzip);
const MINUTE_MS = 60_000;
/** So many answers are kept. */
const MOST = 300;
/** Smaller ones are sent as they are, bytes. */
const LEAST_COMPRESSED = 1400;

/** What is read with logs and plays; the rest is read by the thread for pages. */
const OF_LOGS = /\/logs\b|\/rules\/ground$/;

interface Answer {
  readonly json: Buffer;
  readonly gzipped: Buffer | null;
  readonly etag: string;
}

/** Answers worked out once for all who ask, kept compressed as long as what they depend on stays the same. */
export class KeptAnswers {
  private readonly kept = new Kept<Answer>(MOST);

  constructor(
    private readonly threads: { readonly thread: ReadingThread | null; readonly pages: ReadingThread | null },
    private readonly revisions: Revisions,
    private readonly now: () => number,
  ) {}

  async send(
    route: AnyRoute,
    input: { params: unknown; query: unknown },
    request: Request,
    response: Response,
    check?: (value: unknown) => void,
  ): Promise<void> {
    const minute = Math.floor(this.now() / MINUTE_MS);
    const key = route.reads!(input, { revisions: this.revisions, minute });
    const work = (): Promise<Answer> => this.work(route, input, check);
    const answer = await (key === null
      ? work()
      : this.kept.get(`${request.path}?${JSON.stringify(input.query ?? {})} ${key}`, work));
    response.set({ etag: answer.etag, 'cache-control': 'private, no-cache', vary: 'accept-encoding' });
    if (request.header('if-none-match') === answer.etag) return void response.status(304).end();
    response.type('json');
    if (answer.gzipped && request.acceptsEncodings('gzip')) {
      response.set('content-encoding', 'gzip');
      return void response.end(answer.gzipped);
    }
    response.end(answer.json);
  }

  private async work(
    route: AnyRoute,
    { params, query }: { params: unknown; query: unknown },
    check?: (value: unknown) => void,
  ): Promise<Answer> {
    const { path } = route.endpoint;
    const thread = OF_LOGS.test(path) ? this.threads.thread : this.threads.pages;
    const json = thread
      ? await thread.answer(path, params, query)
      : Buffer.from(JSON.stringify((await readWith(route, params, query)) ?? {}));
    check?.(JSON.parse(json.toString()));
    const gzipped = json.length < LEAST_COMPRESSED ? null : await compress(json, { level: 3 });
    return { json, gzipped, etag: `"${createHash('sha1').update(json).digest('base64url')}"` };
  }
}

/** The answer of a route that reads, worked out without a request. */
export function readWith({ handle }: AnyRoute, params: unknown, query: unknown): unknown {
  return handle({ params, query } as never);
}

import { timingSafeEqual } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { mkdir, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';

/** The largest file taken, bytes. */
const LARGEST = 64 * 1024 * 1024;

export interface ReceiverOptions {
  readonly folder: string;
  /** 0 takes any that is free. */
  readonly port: number;
  readonly user: string;
  readonly password: string;
  /** A plain server cannot move files. */
  readonly canMove?: boolean;
}

export interface Receiver {
  readonly url: string;
  /** Refuses so many of the next files, as a machine in trouble does. */
  failNext(count: number): void;
  /** What was asked, in order: `PUT day.m3u8 201`. */
  readonly asked: readonly string[];
  stop(): Promise<void>;
}

/**
 * A stand-in for a playout machine that takes files by HTTP (WebDAV, RFC 4918): PUT, MOVE, DELETE, GET; `GET /` lists its
 * files as JSON, `POST /fail?count=3` lets the next three be refused. Rejects where the port is taken.
 */
export async function startReceiver(options: ReceiverOptions): Promise<Receiver> {
  await mkdir(options.folder, { recursive: true });
  const asked: string[] = [];
  const state = { failing: 0 };
  const server = createServer((request, response) => {
    answer(request, options, state)
      .catch(() => ({ status: 500, body: '' }))
      .then(({ status, body }) => {
        asked.push(`${request.method ?? ''} ${nameIn(request.url ?? '') ?? ''} ${status}`);
        reply(response, status, body);
      })
      .catch(() => response.destroy());
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(options.port, '127.0.0.1', resolve);
  });
  const { port } = server.address() as AddressInfo;
  return {
    url: `http://127.0.0.1:${port}`,
    asked,
    failNext(count) {
      state.failing = count;
    },
    stop: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

interface Answer {
  readonly status: number;
  readonly body: string | Uint8Array;
}
const empty = (status: number): Answer => ({ status, body: '' });

async function answer(request: IncomingMessage, options: ReceiverOptions, state: { failing: number }): Promise<Answer> {
  if (!isKnown(request, options)) return empty(401);
  const url = new URL(request.url ?? '/', 'http://receiver');
  if (url.pathname === '/' || url.pathname === '/fail') return whole(request, url, options, state);
  const name = nameIn(url.pathname);
  if (name === null) return empty(403);
  const place = path.join(options.folder, name);
  switch (request.method) {
    case 'PUT': {
      const bytes = await bodyOf(request);
      if (bytes === null) return empty(413);
      if (state.failing > 0) {
        state.failing--;
        return empty(503);
      }
      await writeFile(place, bytes);
      return empty(201);
    }
    case 'MOVE': {
      if (options.canMove === false) return empty(405);
      const target = nameIn(new URL(String(request.headers['destination'] ?? ''), 'http://receiver').pathname);
      if (target === null) return empty(403);
      return rename(place, path.join(options.folder, target)).then(
        () => empty(201),
        () => empty(404),
      );
    }
    case 'DELETE':
      await rm(place, { force: true });
      return empty(204);
    case 'GET':
      return readFile(place).then(
        (body) => ({ status: 200, body }),
        () => empty(404),
      );
    default:
      return empty(405);
  }
}

async function whole(
  request: IncomingMessage,
  url: URL,
  { folder }: ReceiverOptions,
  state: { failing: number },
): Promise<Answer> {
  if (request.method === 'POST') {
    state.failing = Math.max(0, Math.floor(Number(url.searchParams.get('count') ?? 1)) || 0);
    return empty(204);
  }
  if (request.method !== 'GET') return empty(405);
  return { status: 200, body: JSON.stringify({ files: (await readdir(folder)).sort(), failing: state.failing }) };
}

/** The name of a file in the folder; null where a path leads elsewhere. */
function nameIn(pathname: string): string | null {
  try {
    const name = decodeURIComponent(pathname.replace(/^\/+/, ''));
    return name === '' || /[/\\\0]/.test(name) || name.startsWith('.') ? null : name;
  } catch {
    return null;
  }
}

function isKnown({ headers }: IncomingMessage, { user, password }: ReceiverOptions): boolean {
  const wanted = Buffer.from(`Basic ${Buffer.from(`${user}:${password}`).toString('base64')}`);
  const given = Buffer.from(headers.authorization ?? '');
  return given.length === wanted.length && timingSafeEqual(given, wanted);
}

async function bodyOf(request: IncomingMessage): Promise<Buffer | null> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > LARGEST) return null;
    parts.push(part);
  }
  return Buffer.concat(parts);
}

function reply(response: ServerResponse, status: number, body: string | Uint8Array): void {
  const headers = status === 401 ? { 'www-authenticate': 'Basic realm="receiver"' } : {};
  response.writeHead(status, { ...headers, 'content-type': 'application/octet-stream' });
  response.end(body);
}

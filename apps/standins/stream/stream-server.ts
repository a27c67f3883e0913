import { timingSafeEqual } from 'node:crypto';
import { createServer, type Socket } from 'node:net';
import { createInterface } from 'node:readline';
import type { AddressInfo } from 'node:net';
import express from 'express';
import * as v from 'valibot';

export interface StreamOptions {
  /** 0 takes any that is free. */
  readonly port: number;
  readonly controlPort: number;
  readonly password: string;
}

/** What a source says, a line of JSON each. */
const Message = v.variant('type', [
  v.object({ type: v.literal('source'), password: v.string(), name: v.string(), description: v.string() }),
  v.object({ type: v.literal('now'), artist: v.string(), title: v.string(), atMs: v.number() }),
]);

/** The state of a stream server. */
export interface StreamState {
  readonly source: { readonly name: string; readonly description: string; readonly sinceMs: number } | null;
  readonly now: { readonly artist: string; readonly title: string; readonly atMs: number } | null;
  readonly listeners: number;
  /** How often a source was dropped, or turned away with a wrong password. */
  readonly drops: number;
  readonly refused: number;
}

export interface StreamServer {
  readonly port: number;
  readonly url: string;
  state(): StreamState;
  drop(): boolean;
  stop(): Promise<void>;
}

/** A made-up audience: few at night, most at breakfast and on the way home. By the hour of the day, UTC. */
export function listenersAt(atMs: number): number {
  const hour = (atMs / 3_600_000) % 24;
  const bump = (at: number, width: number): number => Math.exp(-(((hour - at) / width) ** 2));
  const wave = 1 + 0.06 * Math.sin(atMs / 417_000) + 0.03 * Math.sin(atMs / 61_000);
  return Math.round((38 + 410 * bump(8, 1.8) + 150 * bump(13, 3) + 300 * bump(17.5, 2.2)) * wave);
}

/**
 * A stand-in for a stream server. A source connects by TCP and says who it is; then it tells what plays. By HTTP,
 * `GET /state` answers its state and `POST /drop` drops the source.
 */
export async function startStream({ port, controlPort, password }: StreamOptions): Promise<StreamServer> {
  let source: (StreamState['source'] & { readonly socket: Socket }) | null = null;
  let now: StreamState['now'] = null;
  let [drops, refused] = [0, 0];
  const server = createServer((socket) => {
    socket.on('error', () => socket.destroy());
    socket.setNoDelay(true);
    const refuse = (why: string): void => {
      refused++;
      socket.end(`${JSON.stringify({ type: 'refused', why })}\n`);
    };
    const lines = createInterface({ input: socket });
    // A fault of the socket is told by the reader of its lines as well.
    lines.on('error', () => {});
    lines.on('line', (line) => {
      const read = v.safeParse(Message, parsed(line));
      if (!read.success) return refuse('This is not understood.');
      if (read.output.type === 'now') {
        if (source?.socket !== socket) return;
        now = read.output;
        socket.write(`${JSON.stringify({ type: 'listeners', count: listenersAt(now.atMs) })}\n`);
        return;
      }
      if (!isSame(read.output.password, password)) return refuse('The password is wrong.');
      if (source && source.socket !== socket) return refuse('Another source is connected.');
      const { name, description } = read.output;
      source = { socket, name, description, sinceMs: Date.now() };
      socket.write(`${JSON.stringify({ type: 'welcome' })}\n`);
    });
    socket.on('close', () => {
      if (source?.socket === socket) source = null;
    });
  });
  await listening((done) => server.listen(port, '127.0.0.1', done), server);
  const state = (): StreamState => ({
    source: source && { name: source.name, description: source.description, sinceMs: source.sinceMs },
    now: source && now,
    listeners: source ? listenersAt(now?.atMs ?? Date.now()) : 0,
    drops,
    refused,
  });
  const drop = (): boolean => {
    if (!source) return false;
    drops++;
    source.socket.destroy();
    source = null;
    return true;
  };
  const control = express();
  control.get('/state', (_, response) => void response.json(state()));
  control.post('/drop', (_, response) => void response.json({ dropped: drop() }));
  const http = control.listen(controlPort, '127.0.0.1');
  await listening((done) => (http.listening ? done() : http.once('listening', done)), http);
  return {
    port: (server.address() as AddressInfo).port,
    url: `http://127.0.0.1:${(http.address() as AddressInfo).port}`,
    state,
    drop,
    async stop() {
      source?.socket.destroy();
      http.closeAllConnections();
      await Promise.all([server, http].map((one) => new Promise<void>((resolve) => one.close(() => resolve()))));
    },
  };
}

function listening(
  begin: (done: () => void) => void,
  server: { once(event: 'error', told: (error: Error) => void): unknown },
): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    begin(resolve);
  });
}

function parsed(line: string): unknown {
  try {
    return JSON.parse(line) as unknown;
  } catch {
    return null;
  }
}

function isSame(given: string, wanted: string): boolean {
  const [a, b] = [Buffer.from(given), Buffer.from(wanted)];
  return a.length === b.length && timingSafeEqual(a, b);
}

import { scryptSync, timingSafeEqual } from 'node:crypto';
import express, { type Express, type NextFunction, type Request, type Response } from 'express';
import { readCue, type PlayerRow } from '@fuller/core';
import * as v from 'valibot';
import type { NumberedEvent } from './journal.js';
import type { LiveShow } from './player.js';

const text = v.pipe(v.string(), v.maxLength(1000));
const instant = v.pipe(v.number(), v.integer());
const length = v.pipe(v.number(), v.minValue(0), v.maxValue(86_400_000));

/** A row as it is sent to the player; how it is treated stands in its cue. */
const SentRow = v.object({
  startMs: instant,
  durationMs: length,
  kind: text,
  artist: text,
  title: text,
  album: v.optional(text, ''),
  cart: v.optional(text, ''),
  sponsor: v.optional(text, ''),
  product: v.optional(text, ''),
  file: v.optional(text, ''),
  cue: v.optional(v.pipe(v.string(), v.maxLength(4000)), ''),
  id: v.pipe(v.string(), v.minLength(1), v.maxLength(200)),
});
export type SentRow = v.InferOutput<typeof SentRow>;

const Command = v.variant('do', [
  v.object({ do: v.picklist(['skip', 'go', 'leave', 'drop-stream']) }),
  v.object({ do: v.literal('play-next'), row: SentRow }),
  v.object({ do: v.picklist(['remove', 'lose-file']), id: text }),
  v.object({ do: v.literal('rate'), rate: v.pipe(v.number(), v.minValue(1), v.maxValue(3600)) }),
  v.object({ do: v.literal('set-clock'), atMs: instant }),
  v.object({ do: v.literal('stop'), seconds: v.pipe(v.number(), v.minValue(1), v.maxValue(86_400)) }),
  v.object({
    do: v.literal('reconnect-after'),
    seconds: v.nullable(v.pipe(v.number(), v.minValue(0), v.maxValue(86_400))),
  }),
]);
export type PlayoutCommand = v.InferOutput<typeof Command>;

const Show = v.object({
  id: text,
  name: text,
  presenter: text,
  startMs: instant,
  endMs: instant,
  passwordHash: v.pipe(v.string(), v.regex(/^[0-9a-f]{8,}:[0-9a-f]{8,}$/)),
});
const Shows = v.pipe(v.array(Show), v.maxLength(100));
const Queue = v.pipe(v.array(SentRow), v.maxLength(2000));
const Knock = v.object({ name: text, password: text });

const MOST_EVENTS = 2000;

/** What can be asked of a playout machine from outside. */
export interface Controlled {
  state(): object;
  eventsAfter(n: number, most: number): { readonly events: readonly NumberedEvent[]; readonly coveredUntilMs: number };
  /** Why a command cannot be carried out; null where it is. */
  command(command: PlayoutCommand): string | null;
  setQueue(rows: readonly PlayerRow[] | null): void;
  setShows(shows: readonly LiveShow[]): void;
  /** The show within which a presenter may take the air now. */
  showNow(): LiveShow | null;
  connect(show: LiveShow, who: string): void;
}

/** The HTTP interface of the playout machine; every request carries its token. */
export function controlOf(playout: Controlled, token: string): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((request: Request, response: Response, next: NextFunction) => {
    if (isSame(request.headers.authorization ?? '', `Bearer ${token}`)) next();
    else response.status(401).json({ why: 'The token is wrong.' });
  });
  app.use(express.json({ limit: '4mb' }));
  app.get('/state', (_, response) => void response.json(playout.state()));
  app.get('/as-run', (request, response) => {
    const after = Number(request.query['after'] ?? 0);
    response.json(playout.eventsAfter(Number.isFinite(after) ? after : 0, MOST_EVENTS));
  });
  app.post(
    '/commands',
    taking(Command, (command, response) => {
      const why = playout.command(command);
      if (why === null) response.json({ done: true });
      else response.status(409).json({ why });
    }),
  );
  app.put(
    '/queue',
    taking(Queue, (rows, response) => {
      playout.setQueue(rows.map(({ cue, ...row }) => ({ ...row, ...(readCue(cue) ? { cue: readCue(cue)! } : {}) })));
      response.json({ done: true });
    }),
  );
  app.delete('/queue', (_, response) => {
    playout.setQueue(null);
    response.json({ done: true });
  });
  app.put(
    '/live-shows',
    taking(Shows, (shows, response) => {
      playout.setShows(shows);
      response.json({ done: true });
    }),
  );
  app.post(
    '/live',
    taking(Knock, ({ name, password }, response) => {
      const show = playout.showNow();
      if (!show) response.status(409).json({ why: 'No live show is on now.' });
      else if (!isPassword(password, show.passwordHash)) response.status(403).json({ why: 'The password is wrong.' });
      else {
        playout.connect(show, name || show.presenter);
        response.json({ done: true, show: show.name, untilMs: show.endMs });
      }
    }),
  );
  app.use((error: Error & { status?: number }, _: Request, response: Response, next: NextFunction) => {
    void next;
    response.status(error.status ?? 500).json({ why: error.message });
  });
  return app;
}

function taking<T>(schema: v.GenericSchema<unknown, T>, work: (given: T, response: Response) => void) {
  return (request: Request, response: Response): void => {
    const read = v.safeParse(schema, request.body);
    if (read.success) work(read.output, response);
    else {
      const [issue] = read.issues;
      response.status(422).json({ why: `${v.getDotPath(issue) ?? 'body'}: ${issue.message}` });
    }
  };
}

/** Whether a password has a hash, as `salt:hash` in hex made by scrypt. */
function isPassword(password: string, hash: string): boolean {
  const [salt = '', wanted = ''] = hash.split(':');
  const bytes = Buffer.from(wanted, 'hex');
  return timingSafeEqual(scryptSync(password, Buffer.from(salt, 'hex'), bytes.length), bytes);
}

function isSame(given: string, wanted: string): boolean {
  const [a, b] = [Buffer.from(given), Buffer.from(wanted)];
  return a.length === b.length && timingSafeEqual(a, b);
}

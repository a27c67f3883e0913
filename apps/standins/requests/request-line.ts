import { randomBytes } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import express from 'express';
import * as v from 'valibot';
import { WishMaker, type WishList } from './wishes.js';

export interface RequestLineOptions {
  readonly port: number;
  readonly list: WishList;
  readonly perHour: number;
}

const Answers = v.pipe(
  v.array(v.object({ n: v.pipe(v.number(), v.integer()), words: v.pipe(v.string(), v.maxLength(500)) })),
  v.maxLength(500),
);
const Rate = v.object({ perHour: v.pipe(v.number(), v.minValue(0), v.maxValue(600)) });
const Wish = v.object({ listener: v.string(), title: v.string(), artist: v.string() });

export interface RequestLine {
  readonly url: string;
  readonly maker: WishMaker;
  /** What each listener was told, by the number of the wish, the latest last. */
  readonly told: ReadonlyMap<number, readonly string[]>;
  stop(): Promise<void>;
}

/**
 * A stand-in for a request line: made-up listeners ask for songs by the clock of the station. `GET /wishes?after=0&now=…`
 * answers what has been asked for, `POST /answers` takes what listeners are told, `POST /rate` sets how many ask an hour,
 * `POST /wishes` asks for one song.
 */
export async function startRequestLine({ port, list, perHour }: RequestLineOptions): Promise<RequestLine> {
  const maker = new WishMaker(list, perHour);
  const lineId = randomBytes(4).toString('hex');
  const told = new Map<number, string[]>();
  const app = express();
  app.disable('x-powered-by');
  app.use(express.json({ limit: '200kb' }));
  app.get('/wishes', ({ query }, response) => {
    const now = Number(query['now']);
    if (Number.isFinite(now)) maker.until(now);
    response.json({ lineId, wishes: maker.after(Number(query['after']) || 0) });
  });
  app.get('/state', (_, response) => {
    response.json({ lineId, perHour: maker.perHour, wishes: maker.wishes.length, told: Object.fromEntries(told) });
  });
  const take = <T>(path: string, schema: v.GenericSchema<unknown, T>, work: (given: T) => object): void => {
    app.post(path, ({ body }, response) => {
      const read = v.safeParse(schema, body as unknown);
      if (read.success) response.json(work(read.output));
      else response.status(422).json({ why: read.issues[0].message });
    });
  };
  take('/answers', Answers, (answers) => {
    for (const { n, words } of answers) told.set(n, [...(told.get(n) ?? []), words]);
    return { done: true };
  });
  take('/rate', Rate, (rate) => {
    maker.perHour = rate.perHour;
    return { done: true };
  });
  take('/wishes', Wish, (wish) => maker.add(Date.now(), wish));
  const server = app.listen(port, '127.0.0.1');
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.once('listening', resolve);
  });
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    maker,
    told,
    stop: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

import { lookUp } from '@fuller/core';
import { serialize } from 'node:v8';
import { parentPort, workerData } from 'node:worker_threads';
import { openReading } from '../reading-services.js';
import { FullerError } from '../errors.js';
import { packFigures } from '../insight/packed-figures.js';
import { readWith } from '../http/kept-answers.js';
import { readingRoutes } from '../http/all-routes.js';
import type { Asked, FromThread, ToThread } from './protocol.js';

const { dataDir, database } = workerData as { readonly dataDir: string; readonly database: string | null };
const port = parentPort!;
const services = await openReading(dataDir, Date.now, database);
const routes = new Map(readingRoutes(services).map((route) => [route.endpoint.path, route]));

port.on('message', (message: ToThread) => {
  if ('quit' in message) process.exit(0);
  if (!('asked' in message)) return services.revisions.note(new Set(message.things), message.logs);
  void reply(message.id, message.asked);
});
port.postMessage({ ready: true } satisfies FromThread);

async function reply(id: number, asked: Asked): Promise<void> {
  try {
    port.postMessage({ id, value: await valueOf(asked) } satisfies FromThread);
  } catch (error) {
    const known = error instanceof FullerError ? error : null;
    const message = error instanceof Error ? (known ? error.message : (error.stack ?? error.message)) : String(error);
    port.postMessage({ id, fault: { code: known?.code ?? null, message, field: known?.field } } satisfies FromThread);
  }
}

async function valueOf(asked: Asked): Promise<unknown> {
  switch (asked.what) {
    case 'answer': {
      const value = await readWith(lookUp(routes, asked.route), asked.params, asked.query);
      return Buffer.from(JSON.stringify(value ?? {}));
    }
    case 'judge':
      return services.judge(asked.stationId, asked.log);
    case 'figures':
      return packFigures(await services.figures.workOut(asked.stationId, asked.date));
    case 'data':
      return serialize(await services.reader.data(asked.stationId, asked.date, asked));
  }
}

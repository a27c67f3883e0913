import type { Express, Request, RequestHandler } from 'express';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { FullerError } from '../errors.js';
import type { Caller } from '../people/caller.js';
import type { Services } from '../services.js';

/** Upper bounds of the times of answers, seconds. */
const BUCKETS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10];

/** Times every request by its route, and answers /healthz and /metrics for the engineer. */
export function mountMetrics(
  app: Express,
  { jobs, revisions, events }: Services,
  callerOf: (request: Request) => Promise<Caller>,
): RequestHandler {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const times = new Histogram({
    name: 'fuller_http_request_duration_seconds',
    help: 'Time to answer a request of the API',
    labelNames: ['method', 'route', 'status'],
    buckets: BUCKETS,
    registers: [registry],
  });
  const gauge = (name: string, help: string, read: () => number): void => {
    new Gauge({
      name,
      help,
      registers: [registry],
      collect() {
        this.set(read());
      },
    });
  };
  gauge(
    'fuller_jobs_running',
    'Jobs that run now',
    () => jobs.list().filter(({ state }) => state === 'running').length,
  );
  gauge('fuller_event_listeners', 'Browsers and programs that listen to events', () => events.listening);
  gauge('fuller_data_revision', 'Grows with every write', () => revisions.total);

  // Says that it answers, and nothing of what is here.
  app.get('/healthz', (_request, response) => void response.json({ ok: true }));
  app.get('/metrics', async (request, response) => {
    const caller = await callerOf(request);
    if (!caller.may('care'))
      throw new FullerError('SIGN_IN', 'Send a token with the right “care” to read the metrics.');
    response.type(registry.contentType).send(await registry.metrics());
  });
  return (request, response, next) => {
    const end = times.startTimer();
    response.on('finish', () => {
      // The route and not the address, so that ids make no series of their own.
      const route = (request.route as { path?: string } | undefined)?.path ?? 'none';
      end({ method: request.method, route, status: String(response.statusCode) });
    });
    next();
  };
}

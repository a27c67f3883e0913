import { ENDPOINTS, type ServerEvent } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';

const KEEP_ALIVE_MS = 20_000;

export function systemRoutes({ access, events, jobs, revisions }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.health, () => ({ ok: true as const })),
    on(ENDPOINTS.events, ({ caller, options, request, response }) => {
      let asks = caller;
      response.set({
        'content-type': 'text/event-stream',
        'cache-control': 'no-cache, no-transform',
        connection: 'keep-alive',
      });
      response.flushHeaders();
      const send = (event: ServerEvent): void => {
        const stationId = stationOf(event);
        if (stationId === null || asks.may('look', stationId)) response.write(`data: ${textOf(event)}\n\n`);
      };
      response.write('retry: 1000\n\n');
      const stop = events.listen(send);
      for (const job of jobs.list()) send({ type: 'job', job, dataRevision: revisions.total });
      const beat = setInterval(() => {
        // Who has been signed out meanwhile, or has another role, is told no more than that allows.
        access.callerOf(request, options).then(
          (now) => {
            asks = now;
            if (now.may('look')) response.write(': still here\n\n');
            else response.end();
          },
          () => response.end(),
        );
      }, KEEP_ALIVE_MS);
      request.on('close', () => {
        stop();
        clearInterval(beat);
      });
    }),
  ];
}

const texts = new WeakMap<ServerEvent, string>();

/** An event as JSON, made once for all who are told of it. */
function textOf(event: ServerEvent): string {
  let text = texts.get(event);
  if (text === undefined) texts.set(event, (text = JSON.stringify(event)));
  return text;
}

/** The station an event is of; null where it is of none alone. */
function stationOf(event: ServerEvent): string | null {
  if (event.type === 'ready') return null;
  return event.type === 'job' ? event.job.stationId : event.stationId;
}

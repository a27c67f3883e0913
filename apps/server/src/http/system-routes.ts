import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';

const KEEP_ALIVE_MS = 20_000;

export function systemRoutes({ events, jobs }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.health, () => ({ ok: true as const })),
    on(ENDPOINTS.events, ({ request, response }) => {
      response.set({
        'content-type': 'text/event-stream',
        'cache-control': 'no-cache, no-transform',
        connection: 'keep-alive',
      });
      response.flushHeaders();
      const send = (event: unknown): void => void response.write(`data: ${JSON.stringify(event)}\n\n`);
      response.write('retry: 1000\n\n');
      const stop = events.listen(send);
      for (const job of jobs.list()) send({ type: 'job', job });
      const beat = setInterval(() => response.write(': still here\n\n'), KEEP_ALIVE_MS);
      request.on('close', () => {
        stop();
        clearInterval(beat);
      });
    }),
  ];
}

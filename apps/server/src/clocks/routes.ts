import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf, created } from '../http/answers.js';

export function clocksRoutes({ plans, clocks }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.createClock, ({ body, actor }) => created(clocks.create(actor, body))),
    on(ENDPOINTS.saveClock, async ({ params, query, body: { revision, ...clock }, actor }) => {
      const label = query.label ?? `Change clock ${clock.name}`;
      return changeOf(await clocks.update(actor, params.id, revision, clock, label));
    }),
    on(ENDPOINTS.deleteClock, async ({ params, actor }) => changeOf(await clocks.remove(actor, params.id))),
    on(ENDPOINTS.countDraws, ({ params, body }) => plans.drawCounts(params.stationId, body.draws)),
  ];
}

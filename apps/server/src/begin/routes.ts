import { ENDPOINTS } from '@fuller/contracts';
import { changeOf } from '../http/answers.js';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';

export function beginRoutes({ begin }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.begin, ({ params }) => begin.view(params.stationId)),
    on(ENDPOINTS.beginCategories, async ({ body, actor }) => changeOf(await begin.makeCategories(actor, body))),
    on(ENDPOINTS.beginLengths, async ({ body, actor }) => changeOf(await begin.giveLengths(actor, body.durationMs))),
    on(ENDPOINTS.proposedSetUp, ({ params, query }) => begin.proposed(params.stationId, query.breaks)),
    on(ENDPOINTS.beginSetUp, async ({ body, actor }) => changeOf(await begin.setUp(actor, body.breaks))),
  ];
}

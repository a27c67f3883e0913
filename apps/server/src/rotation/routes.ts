import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf } from '../http/answers.js';

export function rotationRoutes({ rotation }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.rotation, ({ params }) => rotation.sheet(params.stationId), {
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
    }),
    on(
      ENDPOINTS.categoryRests,
      ({ params, query }) => rotation.category(params.stationId, params.id, query.order ?? null),
      { reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}` },
    ),
    on(ENDPOINTS.keepPlan, async ({ params, body, actor }) => changeOf(await rotation.plan(actor, params.id, body))),
    on(ENDPOINTS.dropPlan, async ({ params, actor }) => changeOf(await rotation.plan(actor, params.id, null))),
  ];
}

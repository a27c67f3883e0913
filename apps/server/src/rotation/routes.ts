import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf } from '../http/answers.js';

export function rotationRoutes({ rotation, lives }: Services): AnyRoute[] {
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
    on(ENDPOINTS.moves, ({ params, query }) => lives.moves(params.stationId, query.until)),
    on(ENDPOINTS.carryOutMoves, async ({ body, actor }) => changeOf(await lives.carryOut(actor, body.itemIds))),
    on(ENDPOINTS.itemLife, ({ params }) => lives.ofItem(params.stationId, params.id)),
    on(ENDPOINTS.planMove, async ({ params, body, actor }) =>
      changeOf(await lives.plan(actor, params.id, body.planned)),
    ),
  ];
}

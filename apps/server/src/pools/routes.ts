import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf, created } from '../http/answers.js';

export function poolsRoutes({ pools }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.filterWords, ({ params }) => pools.vocabulary(params.stationId)),
    on(ENDPOINTS.pools, ({ params }) => pools.list(params.stationId)),
    on(ENDPOINTS.createPool, ({ body, actor }) => created(pools.create(actor, body))),
    on(ENDPOINTS.patchPool, async ({ params, body: { revision, ...patch }, actor }) =>
      changeOf(await pools.update(actor, params.id, revision, patch)),
    ),
    on(ENDPOINTS.deletePool, async ({ params, actor }) => changeOf(await pools.remove(actor, params.id))),
  ];
}

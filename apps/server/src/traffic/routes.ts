import { ENDPOINTS } from '@fuller/contracts';
import { changeOf } from '../http/answers.js';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';

export function trafficRoutes({ traffic, trafficSettings, trafficWatch, folders }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.traffic, async ({ params: { stationId, date } }) => ({
      ...(await traffic.day(stationId, date)),
      waiting: await trafficWatch.waiting(stationId, date),
    })),
    on(ENDPOINTS.importTraffic, ({ params, body, actor }) => traffic.take(actor, params.date, body)),
    on(ENDPOINTS.importWaiting, ({ params, body, actor }) =>
      trafficWatch.importWaiting(actor, params.date, body.fileName),
    ),
    on(ENDPOINTS.moveSpot, async ({ params, body, actor }) => changeOf(await traffic.move(actor, params.date, body))),
    on(ENDPOINTS.trafficSetUp, async ({ params: { stationId } }) => ({
      settings: await trafficSettings.of(stationId),
      layouts: await trafficSettings.layouts(stationId),
      folder: folders.traffic,
      fault: trafficWatch.faultOf(stationId),
    })),
    on(ENDPOINTS.setTraffic, async ({ body, actor }) => changeOf(await trafficSettings.set(actor, body))),
    on(ENDPOINTS.saveLayout, async ({ params, body, actor }) => ({
      ...changeOf(await trafficSettings.saveLayout(actor, params.id, body)),
      id: params.id,
    })),
    on(ENDPOINTS.removeLayout, async ({ params, actor }) =>
      changeOf(await trafficSettings.removeLayout(actor, params.id)),
    ),
  ];
}

import { ENDPOINTS } from '@fuller/contracts';
import { changeOf, created } from '../http/answers.js';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';

export function stationsRoutes({ catalogue, stations }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.stations, async ({ caller }) =>
      (await catalogue.stations()).filter(({ id }) => caller.may('look', id)),
    ),
    on(ENDPOINTS.createStation, ({ body, actor }) => created(stations.create(actor, body))),
    on(ENDPOINTS.updateStation, async ({ params, body, actor }) =>
      changeOf(await stations.update(actor, params.id, body)),
    ),
    on(ENDPOINTS.catalogue, ({ params }) => catalogue.catalogue(params.stationId), {
      reads: (_input, { revisions, minute }) => `${revisions.ground} ${minute}`,
    }),
  ];
}

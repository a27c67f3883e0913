import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';

export function stationsRoutes({ catalogue }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.stations, async ({ caller }) =>
      (await catalogue.stations()).filter(({ id }) => caller.may('look', id)),
    ),
    on(ENDPOINTS.catalogue, ({ params }) => catalogue.catalogue(params.stationId), {
      reads: (_input, { revisions, minute }) => `${revisions.ground} ${minute}`,
    }),
  ];
}

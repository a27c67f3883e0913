import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';

export function stationsRoutes({ catalogue }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.stations, () => catalogue.stations(), { reads: (_input, { revisions }) => String(revisions.total) }),
    on(ENDPOINTS.catalogue, ({ params }) => catalogue.catalogue(params.stationId), {
      reads: (_input, { revisions, minute }) => `${revisions.ground} ${minute}`,
    }),
  ];
}

import { ENDPOINTS } from '@fuller/contracts';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';

export function searchRoutes({ search }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.search, ({ query, caller }) =>
      search.find(query.q, (stationId) => caller.may('look', stationId), query.at),
    ),
  ];
}

import { ENDPOINTS } from '@fuller/contracts';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';

export function trafficRoutes({ traffic }: Services): AnyRoute[] {
  return [on(ENDPOINTS.importTraffic, ({ params, body, actor }) => traffic.take(actor, params.date, body))];
}

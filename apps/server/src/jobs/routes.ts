import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';

export function jobsRoutes({ jobs }: Services): AnyRoute[] {
  return [on(ENDPOINTS.jobs, () => jobs.list()), on(ENDPOINTS.cancelJob, ({ params }) => jobs.cancel(params.id))];
}

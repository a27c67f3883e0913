import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';

export function jobsRoutes({ jobs }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.jobs, ({ caller }) =>
      jobs.list().filter(({ stationId }) => stationId === null || caller.may('look', stationId)),
    ),
    on(ENDPOINTS.cancelJob, ({ params }) => jobs.cancel(params.id), {
      stationOf: ({ id }) => jobs.list().find((job) => job.id === id)?.stationId ?? null,
    }),
  ];
}

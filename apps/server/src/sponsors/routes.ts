import { ENDPOINTS } from '@fuller/contracts';
import { changeOf, created } from '../http/answers.js';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';

export function sponsorsRoutes({ sponsors, sponsorWeek }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.sponsorWeek, ({ params }) => sponsorWeek.week(params.stationId, params.date), {
      reads: (_input, { revisions }) => String(revisions.total),
    }),
    on(
      ENDPOINTS.promiseShortfalls,
      ({ params, query }) => sponsorWeek.shortfalls(params.stationId, query.from, query.to),
      {
        reads: (_input, { revisions }) => String(revisions.total),
      },
    ),
    on(ENDPOINTS.createSponsor, ({ body, actor }) => created(sponsors.create(actor, body))),
    on(ENDPOINTS.setSponsorSettings, async ({ body, actor }) => changeOf(await sponsors.set(actor, body))),
    on(ENDPOINTS.patchSponsor, async ({ params, body, actor }) =>
      changeOf(await sponsors.update(actor, params.id, body)),
    ),
    on(ENDPOINTS.deleteSponsor, async ({ params, actor }) => changeOf(await sponsors.remove(actor, params.id))),
  ];
}

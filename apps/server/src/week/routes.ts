import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf, created } from '../http/answers.js';

export function weekRoutes({ plans }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.saveWeek, async ({ body: { revision, ...week }, actor }) =>
      changeOf(await plans.updateWeek(actor, revision, week)),
    ),
    on(ENDPOINTS.createShow, ({ body, actor }) => created(plans.createShow(actor, body))),
    on(ENDPOINTS.patchShow, async ({ params, body: { revision, ...patch }, actor }) =>
      changeOf(await plans.updateShow(actor, params.id, revision, patch)),
    ),
    on(ENDPOINTS.deleteShow, async ({ params, actor }) => changeOf(await plans.deleteShow(actor, params.id))),
    on(ENDPOINTS.createDate, ({ body, actor }) => created(plans.createDate(actor, body))),
    on(ENDPOINTS.patchDate, async ({ params, body: { revision, ...patch }, actor }) =>
      changeOf(await plans.updateDate(actor, params.id, revision, patch)),
    ),
    on(ENDPOINTS.deleteDate, async ({ params, actor }) => changeOf(await plans.deleteDate(actor, params.id))),
  ];
}

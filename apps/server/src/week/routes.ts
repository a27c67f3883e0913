import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf, created } from '../http/answers.js';

export function weekRoutes({ planWriter }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.saveWeek, async ({ body: { revision, ...week }, actor }) =>
      changeOf(await planWriter.updateWeek(actor, revision, week)),
    ),
    on(ENDPOINTS.createShow, ({ body, actor }) => created(planWriter.createShow(actor, body))),
    on(ENDPOINTS.patchShow, async ({ params, body: { revision, ...patch }, actor }) =>
      changeOf(await planWriter.updateShow(actor, params.id, revision, patch)),
    ),
    on(ENDPOINTS.deleteShow, async ({ params, actor }) => changeOf(await planWriter.deleteShow(actor, params.id))),
    on(ENDPOINTS.createDate, ({ body, actor }) => created(planWriter.createDate(actor, body))),
    on(ENDPOINTS.patchDate, async ({ params, body: { revision, ...patch }, actor }) =>
      changeOf(await planWriter.updateDate(actor, params.id, revision, patch)),
    ),
    on(ENDPOINTS.deleteDate, async ({ params, actor }) => changeOf(await planWriter.deleteDate(actor, params.id))),
  ];
}

import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf, created } from '../http/answers.js';

export function categoriesRoutes({ categories, categoryEdits }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.categoryUse, ({ params }) => categories.use(params.stationId, params.id)),
    on(ENDPOINTS.mergeCategory, async ({ params, body, actor }) =>
      changeOf(await categories.merge(actor, params.id, body.into)),
    ),
    on(ENDPOINTS.splitCategory, ({ params, body, actor }) => created(categories.split(actor, params.id, body))),
    on(ENDPOINTS.createGroup, ({ body, actor }) => created(categories.createGroup(actor, body.name))),
    on(ENDPOINTS.renameGroup, async ({ params, body, actor }) =>
      changeOf(await categories.renameGroup(actor, params.id, body.name)),
    ),
    on(ENDPOINTS.deleteGroup, async ({ params, actor }) => changeOf(await categories.removeGroup(actor, params.id))),
    on(ENDPOINTS.createCategory, ({ body, actor }) => created(categoryEdits.create(actor, body))),
    on(ENDPOINTS.patchCategory, async ({ params, body: { revision, ...patch }, actor }) =>
      changeOf(await categoryEdits.update(actor, params.id, revision, patch)),
    ),
    on(ENDPOINTS.deleteCategory, async ({ params, actor }) => changeOf(await categoryEdits.remove(actor, params.id))),
  ];
}

import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf, created } from '../http/answers.js';

export function tagsRoutes({ families }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.families, () => families.list()),
    on(ENDPOINTS.createFamily, ({ body, actor }) => created(families.create(actor, body))),
    on(ENDPOINTS.patchFamily, async ({ params, body, actor }) =>
      changeOf(await families.update(actor, params.id, body)),
    ),
    on(ENDPOINTS.deleteFamily, async ({ params, query, actor }) =>
      changeOf(await families.remove(actor, params.id, query.offItems === 'yes')),
    ),
  ];
}

import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf, created } from '../http/answers.js';

export function rulesRoutes({ rules }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.createRule, ({ body, actor }) => created(rules.create(actor, body))),
    on(ENDPOINTS.patchRule, async ({ params, body, actor }) => changeOf(await rules.update(actor, params.id, body))),
    on(ENDPOINTS.deleteRule, async ({ params, actor }) => changeOf(await rules.remove(actor, params.id))),
  ];
}

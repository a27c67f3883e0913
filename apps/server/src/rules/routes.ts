import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf, created } from '../http/answers.js';

export function rulesRoutes({ rules, rulesFile, dayparts, logs }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.createRule, ({ body, actor }) => created(rules.create(actor, body))),
    on(ENDPOINTS.patchRule, async ({ params, body, actor }) => changeOf(await rules.update(actor, params.id, body))),
    on(ENDPOINTS.deleteRule, async ({ params, actor }) => changeOf(await rules.remove(actor, params.id))),
    on(ENDPOINTS.copyRules, async ({ body, actor }) => changeOf(await rules.copy(actor, body))),
    on(ENDPOINTS.rulesGround, ({ params }) => logs.rulesGround(params.stationId), {
      reads: ({ params }, { revisions, minute }) =>
        `${revisions.ground} ${revisions.ofDates(params.stationId, '', '9')} ${minute}`,
    }),
    on(ENDPOINTS.rulesFile, ({ params }) => rulesFile.write(params.stationId)),
    on(ENDPOINTS.takeRulesFile, async ({ body, actor }) =>
      changeOf(await rulesFile.take(actor, body.file, body.replace)),
    ),
    on(ENDPOINTS.createDaypart, ({ body, actor }) => created(dayparts.create(actor, body))),
    on(ENDPOINTS.patchDaypart, async ({ params, body: { revision, ...patch }, actor }) =>
      changeOf(await dayparts.update(actor, params.id, revision, patch)),
    ),
    on(ENDPOINTS.deleteDaypart, async ({ params, actor }) => changeOf(await dayparts.remove(actor, params.id))),
  ];
}

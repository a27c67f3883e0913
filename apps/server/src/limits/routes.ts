import { ENDPOINTS } from '@fuller/contracts';
import { changeOf } from '../http/answers.js';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';

export function limitsRoutes({ limits, limitSettings }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.setLimits, async ({ body, actor }) => changeOf(await limitSettings.set(actor, body))),
    on(ENDPOINTS.checkFile, ({ params, body }) =>
      limits.checkFile(params.stationId, Buffer.from(body.content, 'base64'), body.strict),
    ),
    on(ENDPOINTS.checkDays, ({ params, query }) =>
      limits.checkDays(params.stationId, query.from, query.days, query.strict === 'true'),
    ),
    on(ENDPOINTS.mendLimits, async ({ params, body, actor }) => {
      const written = await limits.mend(actor, params.date, body.strict);
      return { ...changeOf(written), replaced: written.value };
    }),
  ];
}

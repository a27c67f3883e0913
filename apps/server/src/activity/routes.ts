import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf } from '../http/answers.js';

export function activityRoutes({ activity, unreadable }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.activity, ({ query }) =>
      activity.latest(query.limit, { stationId: query.station, clientId: query.client }),
    ),
    on(ENDPOINTS.undo, async ({ params, actor }) => changeOf(await activity.undo(actor, params.id))),
    on(ENDPOINTS.unreadable, () => unreadable.notes()),
    on(ENDPOINTS.dismissUnreadable, async ({ params, actor }) => changeOf(await unreadable.dismiss(actor, params.id))),
  ];
}

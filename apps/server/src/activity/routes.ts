import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf } from '../http/answers.js';

export function activityRoutes({ activity, unreadable }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.activity, ({ query, caller }) => activity.latest(caller, query)),
    on(ENDPOINTS.activityChanges, ({ params, caller }) => activity.changes(caller, params.id), {
      stationOf: ({ id }) => activity.stationOf(id),
    }),
    on(ENDPOINTS.activitySettings, () => activity.settings()),
    on(ENDPOINTS.setActivity, async ({ body }) => {
      await activity.set(body);
      return {};
    }),
    on(ENDPOINTS.undo, async ({ params, actor, caller }) => changeOf(await activity.undo(actor, caller, params.id)), {
      stationOf: ({ id }) => activity.stationOf(id),
    }),
    on(ENDPOINTS.unreadable, () => unreadable.notes()),
    on(ENDPOINTS.dismissUnreadable, async ({ params, actor }) => changeOf(await unreadable.dismiss(actor, params.id))),
  ];
}

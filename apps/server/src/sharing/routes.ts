import { ENDPOINTS, type Right, type SharedKind } from '@fuller/contracts';
import { created } from '../http/answers.js';
import { on, type AnyRoute } from '../http/route.js';
import { mustBeAllowed } from '../people/allowed.js';
import type { Services } from '../services.js';

/** The right to change things of each kind. */
const RIGHT_FOR: Readonly<Record<SharedKind, Right>> = {
  category: 'rotation',
  pool: 'library',
  'set list': 'library',
  clock: 'clocks',
  rule: 'rules',
};

export function sharingRoutes({ sharing }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.sharing, ({ params: { stationId, kind, id } }) => sharing.of(stationId, kind, id)),
    on(ENDPOINTS.makeOwn, ({ params: { stationId, kind, id }, body, actor, caller }) => {
      mustBeAllowed(caller, RIGHT_FOR[kind], stationId);
      return created(sharing.makeOwn(actor, kind, id, body));
    }),
    on(ENDPOINTS.share, ({ params: { stationId, kind, id }, actor, caller }) => {
      mustBeAllowed(caller, RIGHT_FOR[kind], stationId);
      return created(sharing.share(actor, kind, id));
    }),
  ];
}

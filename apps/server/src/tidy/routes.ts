import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf, created } from '../http/answers.js';

export function tidyRoutes({ artists, tidy }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.tidy, ({ params }) => tidy.view(params.stationId)),
    on(ENDPOINTS.mergeArtists, async ({ body, actor }) => changeOf(await tidy.merge(actor, body))),
    on(ENDPOINTS.mergeAlbums, async ({ body, actor }) => changeOf(await tidy.mergeAlbums(actor, body))),
    on(ENDPOINTS.artist, ({ params }) => artists.view(params.id)),
    on(ENDPOINTS.renameArtist, async ({ params, body, actor }) =>
      changeOf(await artists.rename(actor, params.id, body.name)),
    ),
    on(ENDPOINTS.previewAlias, ({ params, body }) => artists.previewAlias(params.id, body.name)),
    on(ENDPOINTS.addAlias, async ({ params, body, actor }) =>
      changeOf(await artists.addAlias(actor, params.id, body.name, body.merge)),
    ),
    on(ENDPOINTS.removeAlias, async ({ params, actor }) =>
      changeOf(await artists.removeAlias(actor, params.id, params.aliasId)),
    ),
    on(ENDPOINTS.splitArtist, ({ params, body, actor }) =>
      created(artists.split(actor, params.id, body.itemIds, body.name)),
    ),
    on(ENDPOINTS.refuseDoubles, async ({ body, actor }) => changeOf(await tidy.refuse(actor, body.keys))),
  ];
}

import { ENDPOINTS } from '@fuller/contracts';
import { changeOf, created } from '../http/answers.js';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';

export function setListsRoutes({ setLists, setListFiles }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.setLists, ({ params }) => setLists.list(params.stationId)),
    on(ENDPOINTS.createSetList, ({ body, actor }) => created(setLists.create(actor, body))),
    on(ENDPOINTS.matchItems, ({ params, body }) => setListFiles.match(params.stationId, body.rows)),
    on(ENDPOINTS.setList, ({ params }) => setLists.one(params.stationId, params.id)),
    on(ENDPOINTS.patchSetList, async ({ params, body, actor }) =>
      changeOf(await setLists.update(actor, params.id, body)),
    ),
    on(ENDPOINTS.editSetList, async ({ params, body, actor }) => changeOf(await setLists.edit(actor, params.id, body))),
    on(ENDPOINTS.deleteSetList, async ({ params, actor }) => changeOf(await setLists.remove(actor, params.id))),
    on(ENDPOINTS.setListFile, async ({ params, query, response }) => {
      const { name, text } = await setListFiles.write(params.stationId, params.id, query.format);
      // A playlist is never shown in the browser as something else.
      response.attachment(name).type('application/octet-stream').send(text);
    }),
  ];
}

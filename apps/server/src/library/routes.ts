import { ENDPOINTS } from '@fuller/contracts';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf } from '../http/answers.js';

export function libraryRoutes({ library, itemEdits, plays, bulk, worklist }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.bulkPreview, ({ params, body }) => bulk.preview(params.stationId, body)),
    on(ENDPOINTS.bulkWrite, async ({ body, actor }) => {
      const written = await bulk.write(actor, body);
      return { ...changeOf(written), changed: written.value };
    }),
    on(ENDPOINTS.worklist, async ({ params }) => ({ itemIds: await worklist.items(params.stationId) })),
    on(ENDPOINTS.changeWorklist, async ({ body, actor }) =>
      changeOf(await worklist.change(actor, body.add, body.remove)),
    ),
    on(ENDPOINTS.items, ({ params, query }) => library.list(params.stationId, query), {
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
    }),
    on(ENDPOINTS.itemsCsv, async ({ params, query, response }) => {
      const text = await library.csv(params.stationId, query);
      response.attachment('library.csv').type('text/csv; charset=utf-8').send(text);
    }),
    on(ENDPOINTS.item, ({ params }) => library.card(params.stationId, params.id)),
    on(ENDPOINTS.patchItem, async ({ params, body, actor }) =>
      changeOf(await itemEdits.update(actor, params.id, body)),
    ),
    on(ENDPOINTS.setAct, async ({ body, actor }) => changeOf(await itemEdits.setAct(actor, body.name, body.one))),
    on(ENDPOINTS.audio, async ({ params, response }) => {
      const file = await library.playableFile(params.id);
      await new Promise<void>((resolve, reject) => {
        response.sendFile(file, { dotfiles: 'deny' }, (error) =>
          error && !response.headersSent ? reject(error) : resolve(),
        );
      });
    }),
    on(ENDPOINTS.artwork, async ({ params, response }) => {
      const { type, data } = await library.artwork(params.id);
      response.type(type).set('cache-control', 'private, max-age=3600').send(Buffer.from(data));
    }),
    on(ENDPOINTS.place, async ({ body, actor }) => {
      const written = await itemEdits.place(actor, body.itemIds, body.categoryId);
      return { ...changeOf(written), moved: written.value };
    }),
    on(ENDPOINTS.approve, async ({ body, actor }) => changeOf(await itemEdits.approve(actor, body.itemIds, body.by))),
    on(ENDPOINTS.itemPlays, ({ params }) => plays.plays(params.stationId, params.id), {
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
    }),
    on(ENDPOINTS.itemFit, ({ params, query }) => plays.fit(params.stationId, params.id, query.date), {
      reads: (_input, { revisions, minute }) => `${revisions.total} ${minute}`,
    }),
    on(ENDPOINTS.proof, ({ params, query }) => plays.proof(params.stationId, params.id, query.from, query.to)),
    on(ENDPOINTS.proofCsv, async ({ params, query, response }) => {
      const text = await plays.proofCsv(params.stationId, params.id, query.from, query.to);
      response.attachment(`airplay ${query.from} to ${query.to}.csv`).type('text/csv; charset=utf-8').send(text);
    }),
    on(ENDPOINTS.proofPdf, async ({ params, query, response }) => {
      const document = await plays.proofPdf(params.stationId, params.id, query.from, query.to);
      response.attachment(`airplay ${query.from} to ${query.to}.pdf`).type('application/pdf').send(document);
    }),
  ];
}

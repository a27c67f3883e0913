import { ENDPOINTS } from '@fuller/contracts';
import { FullerError } from '../errors.js';
import { changeOf } from '../http/answers.js';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';

export function handOverRoutes({ owner, handOver, outputs, handOverJobs }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.handOver, ({ params }) => handOver.state(params.stationId, params.date)),
    on(ENDPOINTS.handOverChanges, ({ params }) => handOver.changes(params.stationId, params.date, params.id)),
    on(ENDPOINTS.saveOutput, async ({ params, body, actor }) => ({
      ...changeOf(await outputs.save(actor, params.id, body)),
      id: params.id,
    })),
    on(ENDPOINTS.removeOutput, async ({ params, actor }) => changeOf(await outputs.remove(actor, params.id))),
    on(ENDPOINTS.writeOutput, ({ params, actor }) => handOverJobs.begin(actor, params.date, params.id)),
    on(ENDPOINTS.previewHandOver, ({ params, body: { date, folder: _folder, ...settings } }) =>
      handOver.preview(params.stationId, date, settings),
    ),
    on(ENDPOINTS.writeHandOver, async ({ body: { date, folder, ...settings }, actor, request }) => {
      if (folder !== undefined && request.header('x-owner') !== owner.token)
        throw new FullerError('FORBIDDEN', 'Files are written to the station’s own folder alone.', 'folder');
      return (await handOver.write(actor, date, settings, folder)).value;
    }),
    on(ENDPOINTS.takeHandOver, async ({ body: { date, ...settings }, actor }) => {
      const { record, files } = await handOver.take(actor, date, settings);
      return {
        record,
        files: files.map(({ name, bytes }) => ({ name, content: Buffer.from(bytes).toString('base64') })),
      };
    }),
    on(ENDPOINTS.downloadHandOver, async ({ params, response }) => {
      const { name, bytes } = await handOver.download(params.stationId, params.date, params.id);
      // A player’s file is never shown in the browser as something else.
      response.attachment(name).type('application/octet-stream').send(Buffer.from(bytes));
    }),
  ];
}

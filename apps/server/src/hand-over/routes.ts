import { ENDPOINTS } from '@fuller/contracts';
import { FullerError } from '../errors.js';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';

export function handOverRoutes({ owner, handOver }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.handOver, ({ params }) => handOver.state(params.stationId, params.date)),
    on(ENDPOINTS.previewHandOver, ({ params, body: { date, pattern, hourly } }) =>
      handOver.preview(params.stationId, date, { pattern, hourly }),
    ),
    on(ENDPOINTS.writeHandOver, async ({ body: { date, folder, ...settings }, actor, request }) => {
      if (folder !== undefined && request.header('x-owner') !== owner.token)
        throw new FullerError('FORBIDDEN', 'Files are written to the station’s own folder alone.', 'folder');
      return (await handOver.write(actor, date, settings, folder)).value;
    }),
    on(ENDPOINTS.downloadHandOver, async ({ params, query, response }) => {
      const settings = { pattern: query.pattern, hourly: query.hourly === 'true' };
      const { name, type, bytes } = await handOver.download(params.stationId, params.date, settings);
      response.attachment(name).type(type).send(Buffer.from(bytes));
    }),
  ];
}

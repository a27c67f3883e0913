import { ENDPOINTS } from '@fuller/contracts';
import { on, type AnyRoute } from '../http/route.js';
import type { Services } from '../services.js';

export function careRoutes({ backups, checks, restarting }: Services): AnyRoute[] {
  return [
    on(ENDPOINTS.backups, () => backups.list()),
    on(ENDPOINTS.makeBackup, () => backups.make()),
    on(ENDPOINTS.setBackups, async ({ body }) => {
      await backups.set(body);
      return {};
    }),
    on(ENDPOINTS.checkBackup, ({ params }) => backups.facts(params.id)),
    on(ENDPOINTS.downloadBackup, async ({ params, response }) => {
      const file = await backups.fileOf(params.id);
      await new Promise<void>((resolve, reject) => {
        response.download(file, `fuller ${params.id}.db`, (error) =>
          error && !response.headersSent ? reject(error) : resolve(),
        );
      });
    }),
    on(ENDPOINTS.restoreBackup, async ({ params }) => {
      const before = await backups.layReady(await backups.fileOf(params.id));
      return { before, restarts: restarting.now() };
    }),
    on(ENDPOINTS.checkData, () => checks.check()),
    on(ENDPOINTS.mendData, () => checks.mend()),
  ];
}

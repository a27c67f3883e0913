import { rm } from 'node:fs/promises';
import path from 'node:path';
import { ENDPOINTS } from '@fuller/contracts';
import type { Request, Response } from 'express';
import multer from 'multer';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import type { Services } from '../services.js';
import { on, type AnyRoute } from '../http/route.js';
import { changeOf } from '../http/answers.js';

/** The largest table taken, bytes; some 400,000 songs. */
export const LARGEST_UPLOAD = 64 * 1024 * 1024;
/** The largest audio file taken, bytes: an hour and a half of uncompressed stereo. */
const LARGEST_AUDIO = 1024 * 1024 * 1024;

export function importRoutes({ folders, jobs, imports, watched }: Services): AnyRoute[] {
  const storage = multer.diskStorage({
    destination: folders.uploads,
    filename: (_request, _file, done) => done(null, newId()),
  });
  const tableUpload = multer({ storage, limits: { fileSize: LARGEST_UPLOAD, files: 1, fields: 4 } }).single('file');
  const audioUpload = multer({ storage, limits: { fileSize: LARGEST_AUDIO, files: 1, fields: 4 } }).single('file');

  const ofImport = { stationOf: ({ id }: { id: string }) => imports.stationOf(id) };
  return [
    on(ENDPOINTS.uploadTable, async ({ params, request, response }) => {
      const { originalname, path: uploaded } = await receive(tableUpload, request, response, LARGEST_UPLOAD);
      const name = path.basename(Buffer.from(originalname, 'latin1').toString('utf8'));
      try {
        return await imports.openTable(params.stationId, uploaded, name, goneSignal(response));
      } catch (error) {
        // What is refused is not kept.
        await rm(uploaded, { force: true });
        throw error;
      }
    }),
    on(ENDPOINTS.openFolder, ({ params, body }) => imports.openFolder(params.stationId, body.folder)),
    on(ENDPOINTS.beginDropped, ({ params }) => imports.openDropped(params.stationId)),
    on(
      ENDPOINTS.sendFile,
      async ({ params, request, response }) => {
        const { path: uploaded } = await receive(audioUpload, request, response, LARGEST_AUDIO);
        const said: unknown = (request.body as { path?: unknown }).path;
        return imports.addFile(params.id, uploaded, typeof said === 'string' ? said : '');
      },
      ofImport,
    ),
    on(ENDPOINTS.chooseOptions, ({ params, body }) => imports.choose(params.id, body), ofImport),
    on(ENDPOINTS.watchedFolder, ({ params }) => watched.view(params.stationId)),
    on(ENDPOINTS.watchFolder, async ({ body, actor }) => changeOf(await watched.set(actor, body))),
    on(ENDPOINTS.unwatchFolder, async ({ actor }) => changeOf(await watched.set(actor, null))),
    on(ENDPOINTS.importSession, ({ params }) => imports.get(params.id), ofImport),
    on(ENDPOINTS.configureImport, ({ params, body }) => imports.configure(params.id, body), ofImport),
    on(
      ENDPOINTS.dryRun,
      ({ params, actor }) => {
        const { name } = imports.get(params.id);
        const about = {
          kind: 'dry run' as const,
          label: `Look at ${name}`,
          stationId: imports.stationOf(params.id),
          clientId: actor.clientId,
        };
        return jobs.start(about, (job) => imports.dryRun(params.id, job));
      },
      ofImport,
    ),
    on(
      ENDPOINTS.commitImport,
      ({ params, body, actor }) => {
        const { name } = imports.get(params.id);
        const about = {
          kind: 'import' as const,
          label: `Import ${path.basename(name)}`,
          stationId: imports.stationOf(params.id),
          clientId: actor.clientId,
        };
        return jobs.start(about, (job) => imports.commit(params.id, actor.clientId, job, body.category));
      },
      ofImport,
    ),
    on(ENDPOINTS.closeImport, ({ params }) => imports.close(params.id), ofImport),
  ];
}

/** Aborts when the person has gone before the answer. */
function goneSignal(response: Response): AbortSignal {
  const gone = new AbortController();
  response.on('close', () => {
    if (!response.writableEnded) gone.abort(new FullerError('CONFLICT', 'Nobody waits for the answer any more.'));
  });
  return gone.signal;
}

async function receive(
  upload: ReturnType<multer.Multer['single']>,
  request: Request,
  response: Response,
  largest: number,
): Promise<Express.Multer.File> {
  await new Promise<void>((resolve, reject) => {
    upload(request, response, (error: unknown) => (error ? reject(uploadFault(error, largest)) : resolve()));
  }).catch(async (error: unknown) => {
    if (request.file) await rm(request.file.path, { force: true });
    throw error;
  });
  if (!request.file) throw new FullerError('INVALID', 'Choose a file to import.', 'file');
  return request.file;
}

function uploadFault(error: unknown, largest: number): unknown {
  if (!(error instanceof multer.MulterError)) return error;
  if (error.code === 'LIMIT_FILE_SIZE') {
    return new FullerError(
      'TOO_LARGE',
      `The file is larger than ${largest / 1024 / 1024} MB, the most that is taken at once.`,
      'file',
    );
  }
  return new FullerError('INVALID', 'Send one file in the field “file”.', 'file');
}

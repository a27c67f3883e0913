import {
  Change,
  FolderImport,
  Id,
  ImportOptions,
  ImportSession,
  ImportSettings,
  JobView,
  ShortText,
  WatchedFolder,
  WatchedFolderView,
} from '@fuller/contracts';
import type { Request, Response } from 'express';
import multer from 'multer';
import { rm } from 'node:fs/promises';
import path from 'node:path';
import * as v from 'valibot';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';
import { changeOf } from './answers.js';

/** The largest table taken, bytes; some 400,000 songs. */
export const LARGEST_UPLOAD = 64 * 1024 * 1024;
/** The largest audio file taken, bytes: an hour and a half of uncompressed stereo. */
const LARGEST_AUDIO = 1024 * 1024 * 1024;

const OfStation = v.object({ stationId: Id });
const OneImport = v.object({ id: Id });

export function importRoutes({ imports, jobs, folders, watched }: Services): AnyRoute[] {
  const storage = multer.diskStorage({
    destination: folders.uploads,
    filename: (_request, _file, done) => done(null, newId()),
  });
  const tableUpload = multer({ storage, limits: { fileSize: LARGEST_UPLOAD, files: 1, fields: 4 } }).single('file');
  const audioUpload = multer({ storage, limits: { fileSize: LARGEST_AUDIO, files: 1, fields: 4 } }).single('file');

  return [
    route({
      method: 'post',
      path: '/stations/:stationId/imports',
      summary: 'Upload a table to import (multipart, field “file”)',
      params: OfStation,
      answer: ImportSession,
      handle: async ({ params, request, response }) => {
        await receive(tableUpload, request, response, LARGEST_UPLOAD);
        const name = path.basename(Buffer.from(request.file!.originalname, 'latin1').toString('utf8'));
        const uploaded = request.file!.path;
        try {
          return await imports.openTable(params.stationId, uploaded, name, goneSignal(response));
        } catch (error) {
          // What is refused is not kept.
          await rm(uploaded, { force: true });
          throw error;
        }
      },
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/imports/folder',
      summary: 'Begin to import a folder of tagged audio on the server',
      params: OfStation,
      body: FolderImport,
      answer: ImportSession,
      handle: ({ params, body }) => imports.openFolder(params.stationId, body.folder),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/imports/dropped',
      summary: 'Begin to import audio files that are then sent one by one',
      params: OfStation,
      answer: ImportSession,
      handle: ({ params }) => imports.openDropped(params.stationId),
    }),
    route({
      method: 'post',
      path: '/imports/:id/files',
      summary: 'Send one audio file of an import (multipart, field “path” and then field “file”)',
      params: OneImport,
      answer: ImportSession,
      handle: async ({ params, request, response }) => {
        imports.get(params.id);
        await receive(audioUpload, request, response, LARGEST_AUDIO);
        const said: unknown = (request.body as { path?: unknown }).path;
        return imports.addFile(params.id, request.file!.path, typeof said === 'string' ? said : '');
      },
    }),
    route({
      method: 'put',
      path: '/imports/:id/options',
      summary: 'Choose what becomes of categories that are named',
      params: OneImport,
      body: ImportOptions,
      answer: ImportSession,
      handle: ({ params, body }) => imports.choose(params.id, body),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/watched-folder',
      summary: 'The folder whose new audio comes in by itself',
      params: OfStation,
      answer: WatchedFolderView,
      handle: ({ params }) => watched.view(params.stationId),
    }),
    route({
      method: 'put',
      path: '/stations/:stationId/watched-folder',
      summary: 'Watch a folder from now on',
      params: OfStation,
      body: WatchedFolder,
      answer: Change,
      handle: async ({ params, body, clientId }) => changeOf(await watched.set(params.stationId, clientId, body)),
    }),
    route({
      method: 'delete',
      path: '/stations/:stationId/watched-folder',
      summary: 'Watch no folder any more',
      params: OfStation,
      answer: Change,
      handle: async ({ params, clientId }) => changeOf(await watched.set(params.stationId, clientId, null)),
    }),
    route({
      method: 'get',
      path: '/imports/:id',
      summary: 'An import as it stands',
      params: OneImport,
      answer: ImportSession,
      handle: ({ params }) => imports.get(params.id),
    }),
    route({
      method: 'put',
      path: '/imports/:id/settings',
      summary: 'Change how the table is read',
      params: OneImport,
      body: ImportSettings,
      answer: ImportSession,
      handle: ({ params, body }) => imports.configure(params.id, body),
    }),
    route({
      method: 'post',
      path: '/imports/:id/dry-run',
      summary: 'Find out what the import would do; writes nothing',
      params: OneImport,
      answer: JobView,
      handle: ({ params, clientId }) => {
        const { name } = imports.get(params.id);
        const about = {
          kind: 'dry run' as const,
          label: `Look at ${name}`,
          stationId: imports.stationOf(params.id),
          clientId,
        };
        return jobs.start(about, (job) => imports.dryRun(params.id, job));
      },
    }),
    route({
      method: 'post',
      path: '/imports/:id/commit',
      summary: 'Write the import, all or nothing',
      params: OneImport,
      body: v.strictObject({
        /** Where items go whose row names no category, by its name or code. */
        category: v.optional(v.nullable(ShortText), null),
      }),
      answer: JobView,
      handle: ({ params, body, clientId }) => {
        const { name } = imports.get(params.id);
        const about = {
          kind: 'import' as const,
          label: `Import ${path.basename(name)}`,
          stationId: imports.stationOf(params.id),
          clientId,
        };
        return jobs.start(about, (job) => imports.commit(params.id, clientId, job, body.category));
      },
    }),
    route({
      method: 'delete',
      path: '/imports/:id',
      summary: 'End an import',
      params: OneImport,
      handle: ({ params }) => imports.close(params.id),
    }),
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
): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    upload(request, response, (error: unknown) => (error ? reject(uploadFault(error, largest)) : resolve()));
  }).catch(async (error: unknown) => {
    if (request.file) await rm(request.file.path, { force: true });
    throw error;
  });
  if (!request.file) throw new FullerError('INVALID', 'Choose a file to import.', 'file');
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

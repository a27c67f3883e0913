import {
  ActChange,
  Approval,
  Change,
  FolderImport,
  Id,
  ImportSession,
  ImportSettings,
  ItemCard,
  ItemPage,
  ItemPatch,
  ItemQuery,
  JobView,
  Placement,
} from '@fuller/contracts';
import multer from 'multer';
import path from 'node:path';
import * as v from 'valibot';
import { FullerError } from '../errors.js';
import { newId } from '../ids.js';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';
import { changeOf } from './station-routes.js';

/** The largest table taken, bytes; some 400,000 songs. */
export const LARGEST_UPLOAD = 64 * 1024 * 1024;

const OfStation = v.object({ stationId: Id });
const OneItem = v.object({ stationId: Id, id: Id });
const OneImport = v.object({ id: Id });

export function libraryRoutes({ library, imports, jobs, folders }: Services): AnyRoute[] {
  const upload = multer({
    storage: multer.diskStorage({
      destination: folders.uploads,
      filename: (_request, _file, done) => done(null, newId()),
    }),
    limits: { fileSize: LARGEST_UPLOAD, files: 1, fields: 4 },
  }).single('file');

  return [
    route({
      method: 'get',
      path: '/stations/:stationId/items',
      summary: 'Items of the library, searched, filtered and sorted, one page',
      params: OfStation,
      query: ItemQuery,
      answer: ItemPage,
      handle: ({ params, query }) => library.list(params.stationId, query),
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/items.csv',
      summary: 'The same items, all of them, as a CSV table',
      params: OfStation,
      query: ItemQuery,
      handle: async ({ params, query, response }) => {
        const text = await library.csv(params.stationId, query);
        response.attachment('library.csv').type('text/csv; charset=utf-8').send(text);
      },
    }),
    route({
      method: 'get',
      path: '/stations/:stationId/items/:id',
      summary: 'The card of an item',
      params: OneItem,
      answer: ItemCard,
      handle: ({ params }) => library.card(params.stationId, params.id),
    }),
    route({
      method: 'patch',
      path: '/stations/:stationId/items/:id',
      summary: 'Change fields of an item',
      params: OneItem,
      body: ItemPatch,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await library.update(params.stationId, clientId, params.id, body)),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/acts',
      summary: 'Say that a name in credits is one act, or several artists',
      params: OfStation,
      body: ActChange,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await library.setAct(params.stationId, clientId, body.name, body.one)),
    }),
    route({
      method: 'get',
      path: '/items/:id/audio',
      summary: 'Listen to an item',
      params: OneImport,
      handle: async ({ params, response }) => {
        const file = await library.playableFile(params.id);
        await new Promise<void>((resolve, reject) => {
          response.sendFile(file, { dotfiles: 'deny' }, (error) =>
            error && !response.headersSent ? reject(error) : resolve(),
          );
        });
      },
    }),
    route({
      method: 'get',
      path: '/items/:id/artwork',
      summary: 'The picture in the tags of an item',
      params: OneImport,
      handle: async ({ params, response }) => {
        const { type, data } = await library.artwork(params.id);
        response.type(type).set('cache-control', 'private, max-age=3600').send(Buffer.from(data));
      },
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/placements',
      summary: 'Put items into a category, or take them out of theirs',
      params: OfStation,
      body: Placement,
      answer: v.object({ ...Change.entries, moved: v.number() }),
      handle: async ({ params, body, clientId }) => {
        const written = await library.place(params.stationId, clientId, body.itemIds, body.categoryId);
        return { ...changeOf(written), moved: written.value };
      },
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/approvals',
      summary: 'Clear items for air, or take that back',
      params: OfStation,
      body: Approval,
      answer: Change,
      handle: async ({ params, body, clientId }) =>
        changeOf(await library.approve(params.stationId, clientId, body.itemIds, body.by)),
    }),
    route({
      method: 'post',
      path: '/stations/:stationId/imports',
      summary: 'Upload a table to import (multipart, field “file”)',
      params: OfStation,
      answer: ImportSession,
      handle: async ({ params, request, response }) => {
        await new Promise<void>((resolve, reject) => {
          upload(request, response, (error: unknown) => (error ? reject(uploadFault(error)) : resolve()));
        });
        if (!request.file) throw new FullerError('INVALID', 'Choose a file to import.', 'file');
        const name = path.basename(Buffer.from(request.file.originalname, 'latin1').toString('utf8'));
        return imports.openTable(params.stationId, request.file.path, name);
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
      answer: JobView,
      handle: ({ params, clientId }) => {
        const { name } = imports.get(params.id);
        const about = {
          kind: 'import' as const,
          label: `Import ${path.basename(name)}`,
          stationId: imports.stationOf(params.id),
          clientId,
        };
        return jobs.start(about, (job) => imports.commit(params.id, clientId, job));
      },
    }),
    route({
      method: 'delete',
      path: '/imports/:id',
      summary: 'End an import',
      params: OneImport,
      handle: ({ params }) => imports.close(params.id, folders.uploads),
    }),
  ];
}

function uploadFault(error: unknown): unknown {
  if (!(error instanceof multer.MulterError)) return error;
  if (error.code === 'LIMIT_FILE_SIZE') {
    return new FullerError(
      'TOO_LARGE',
      `The file is larger than ${LARGEST_UPLOAD / 1024 / 1024} MB, the most that is taken at once.`,
      'file',
    );
  }
  return new FullerError('INVALID', 'Send one file in the field “file”.', 'file');
}

import { ActivityRow, Change, Id, JobView, QueryInteger, UnreadableNote } from '@fuller/contracts';
import * as v from 'valibot';
import type { Services } from '../services.js';
import { route, type AnyRoute } from './route.js';
import { changeOf } from './answers.js';

const KEEP_ALIVE_MS = 20_000;

export function systemRoutes({ activity, jobs, events, unreadable }: Services): AnyRoute[] {
  const One = v.object({ id: Id });
  return [
    route({
      method: 'get',
      path: '/health',
      summary: 'Whether the server answers',
      answer: v.object({ ok: v.literal(true) }),
      handle: () => ({ ok: true }),
    }),
    route({
      method: 'get',
      path: '/activity',
      summary: 'The latest changes',
      query: v.object({
        limit: v.optional(v.pipe(QueryInteger, v.maxValue(500)), '100'),
        station: v.optional(Id),
        client: v.optional(Id),
      }),
      answer: v.array(ActivityRow),
      handle: ({ query }) => activity.latest(query.limit, { stationId: query.station, clientId: query.client }),
    }),
    route({
      method: 'post',
      path: '/activity/:id/undo',
      summary: 'Undo a change; undoing that redoes it',
      params: One,
      answer: Change,
      handle: async ({ params, clientId }) => changeOf(await activity.undo(params.id, clientId)),
    }),
    route({
      method: 'get',
      path: '/unreadable',
      summary: 'Notes of stored documents that could not be read at the start',
      answer: v.array(UnreadableNote),
      handle: () => unreadable.notes(),
    }),
    route({
      method: 'delete',
      path: '/unreadable/:id',
      summary: 'Dismiss a note of what could not be read',
      params: One,
      answer: Change,
      handle: async ({ params, clientId }) => changeOf(await unreadable.dismiss(clientId, params.id)),
    }),
    route({
      method: 'get',
      path: '/jobs',
      summary: 'Running and recently ended jobs',
      answer: v.array(JobView),
      handle: () => jobs.list(),
    }),
    route({
      method: 'delete',
      path: '/jobs/:id',
      summary: 'Cancel a job',
      params: One,
      answer: JobView,
      handle: ({ params }) => jobs.cancel(params.id),
    }),
    route({
      method: 'get',
      path: '/events',
      summary: 'Changes and job progress as server-sent events',
      handle: ({ request, response }) => {
        response.set({
          'content-type': 'text/event-stream',
          'cache-control': 'no-cache, no-transform',
          connection: 'keep-alive',
        });
        response.flushHeaders();
        const send = (event: unknown): void => void response.write(`data: ${JSON.stringify(event)}\n\n`);
        response.write('retry: 1000\n\n');
        for (const job of jobs.list()) send({ type: 'job', job });
        const stop = events.listen(send);
        const beat = setInterval(() => response.write(': still here\n\n'), KEEP_ALIVE_MS);
        request.on('close', () => {
          stop();
          clearInterval(beat);
        });
      },
    }),
  ];
}

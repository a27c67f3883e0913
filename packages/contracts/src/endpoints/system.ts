import * as v from 'valibot';
import { endpoint } from './endpoint.js';

export const systemEndpoints = {
  health: endpoint({
    method: 'get',
    path: '/health',
    summary: 'Whether the server answers',
    right: 'anybody',
    answer: v.object({ ok: v.literal(true) }),
  }),
  events: endpoint({
    method: 'get',
    path: '/events',
    summary: 'Changes and job progress as server-sent events',
    right: 'look',
  }),
};

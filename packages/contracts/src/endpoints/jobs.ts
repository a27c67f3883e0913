import * as v from 'valibot';
import { JobView } from '../logs.js';
import { One, endpoint } from './endpoint.js';

export const jobsEndpoints = {
  jobs: endpoint({
    method: 'get',
    path: '/jobs',
    summary: 'Running and recently ended jobs',
    right: 'look',
    answer: v.array(JobView),
  }),
  cancelJob: endpoint({
    method: 'delete',
    path: '/jobs/:id',
    summary: 'Cancel a job',
    right: 'logs',
    params: One,
    answer: JobView,
    errors: ['CONFLICT'],
  }),
};

import { NewRule, RulePatch } from '../rules.js';
import { Created } from '../catalogue.js';
import { Change } from '../basics.js';
import { OfStation, OneOfStation, endpoint } from './endpoint.js';

export const rulesEndpoints = {
  createRule: endpoint({
    method: 'post',
    path: '/stations/:stationId/rules',
    summary: 'Make a rule',
    right: 'rules',
    params: OfStation,
    body: NewRule,
    answer: Created,
  }),
  patchRule: endpoint({
    method: 'patch',
    path: '/stations/:stationId/rules/:id',
    summary: 'Change a rule, let it rest or apply it again',
    right: 'rules',
    params: OneOfStation,
    body: RulePatch,
    answer: Change,
    errors: ['CONFLICT'],
  }),
  deleteRule: endpoint({
    method: 'delete',
    path: '/stations/:stationId/rules/:id',
    summary: 'Delete a rule',
    right: 'rules',
    params: OneOfStation,
    answer: Change,
  }),
};

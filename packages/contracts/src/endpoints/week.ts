import { Change } from '../basics.js';
import { DatePlanPatch, NewDatePlan, NewShow, ShowPatch, WeekUpdate } from '../air-plan.js';
import { Created } from '../catalogue.js';
import { OfStation, OneOfStation, endpoint } from './endpoint.js';

export const weekEndpoints = {
  saveWeek: endpoint({
    method: 'put',
    path: '/stations/:stationId/week',
    summary: 'Change the week plan, the default clock, or what frames every hour and show',
    right: 'clocks',
    params: OfStation,
    body: WeekUpdate,
    answer: Change,
    errors: ['CONFLICT'],
  }),
  createShow: endpoint({
    method: 'post',
    path: '/stations/:stationId/shows',
    summary: 'Make a show',
    right: 'clocks',
    params: OfStation,
    body: NewShow,
    answer: Created,
    errors: ['NAME_TAKEN'],
  }),
  patchShow: endpoint({
    method: 'patch',
    path: '/stations/:stationId/shows/:id',
    summary: 'Change a show',
    right: 'clocks',
    params: OneOfStation,
    body: ShowPatch,
    answer: Change,
    errors: ['CONFLICT', 'NAME_TAKEN'],
  }),
  deleteShow: endpoint({
    method: 'delete',
    path: '/stations/:stationId/shows/:id',
    summary: 'Delete a show and take it out of the week and of dates',
    right: 'clocks',
    params: OneOfStation,
    answer: Change,
  }),
  createDate: endpoint({
    method: 'post',
    path: '/stations/:stationId/dates',
    summary: 'Plan dates that differ from the week',
    right: 'clocks',
    params: OfStation,
    body: NewDatePlan,
    answer: Created,
  }),
  patchDate: endpoint({
    method: 'patch',
    path: '/stations/:stationId/dates/:id',
    summary: 'Change dates that differ',
    right: 'clocks',
    params: OneOfStation,
    body: DatePlanPatch,
    answer: Change,
    errors: ['CONFLICT'],
  }),
  deleteDate: endpoint({
    method: 'delete',
    path: '/stations/:stationId/dates/:id',
    summary: 'Let dates run like the week again',
    right: 'clocks',
    params: OneOfStation,
    answer: Change,
  }),
};

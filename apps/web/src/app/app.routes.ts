import { isDevMode } from '@angular/core';
import type { Routes } from '@angular/router';
import { FirstStation } from './frame/first-station';
import { Frame } from './frame/frame';
import { NotThere } from './frame/not-there';
import { mustBeIn } from './people/session-guard';

/** Addresses name station, place and date; what is selected stands in the query. */
export const appRoutes: Routes = [
  {
    path: 'sign-in',
    title: 'Sign in · Fuller',
    loadComponent: () => import('./people/sign-in-page').then((m) => m.SignInPage),
  },
  { path: '', pathMatch: 'full', component: FirstStation, canActivate: [mustBeIn] },
  ...(isDevMode() ? [{ path: 'kit', loadComponent: () => import('./kit/kit').then((m) => m.Kit) }] : []),
  {
    path: ':stationId',
    component: Frame,
    canActivate: [mustBeIn],
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'library' },
      {
        path: 'begin',
        title: 'Begin · Fuller',
        loadComponent: () => import('./begin/begin-page').then((m) => m.BeginPage),
      },
      {
        path: 'library',
        title: 'Library · Fuller',
        loadComponent: () => import('./library/library-page').then((m) => m.LibraryPage),
      },
      {
        path: 'stations',
        title: 'Stations · Fuller',
        loadComponent: () => import('./stations/stations-page').then((m) => m.StationsPage),
      },
      {
        path: 'library/tidy',
        title: 'Tidy · Fuller',
        loadComponent: () => import('./library/tidy/tidy-page').then((m) => m.TidyPage),
      },
      {
        path: 'library/set-lists',
        title: 'Set lists · Fuller',
        loadComponent: () => import('./library/set-lists/set-lists-page').then((m) => m.SetListsPage),
      },
      {
        path: 'library/set-lists/:listId',
        title: 'Set lists · Fuller',
        loadComponent: () => import('./library/set-lists/set-lists-page').then((m) => m.SetListsPage),
      },
      {
        path: 'library/tags',
        title: 'Tags · Fuller',
        loadComponent: () => import('./library/tags/tags-page').then((m) => m.TagsPage),
      },
      {
        path: 'library/import',
        title: 'Import · Fuller',
        loadComponent: () => import('./library/import/import-page').then((m) => m.ImportPage),
      },
      {
        path: 'rotation',
        title: 'Rotation · Fuller',
        loadComponent: () => import('./rotation/rotation-page').then((m) => m.RotationPage),
      },
      {
        path: 'rotation/moves',
        title: 'Moves · Fuller',
        loadComponent: () => import('./rotation/moves-page').then((m) => m.MovesPage),
      },
      {
        path: 'clocks',
        title: 'Clocks · Fuller',
        loadComponent: () => import('./clocks/clocks-page').then((m) => m.ClocksPage),
      },
      {
        path: 'clocks/:clockId',
        title: 'Clocks · Fuller',
        loadComponent: () => import('./clocks/clocks-page').then((m) => m.ClocksPage),
      },
      { path: 'week', title: 'Week · Fuller', loadComponent: () => import('./week/week-page').then((m) => m.WeekPage) },
      {
        path: 'week/dates',
        title: 'Dates · Fuller',
        loadComponent: () => import('./week/dates-page').then((m) => m.DatesPage),
      },
      {
        path: 'week/dates/:dateId',
        title: 'Dates · Fuller',
        loadComponent: () => import('./week/dates-page').then((m) => m.DatesPage),
      },
      {
        path: 'week/shows',
        title: 'Shows · Fuller',
        loadComponent: () => import('./week/shows-page').then((m) => m.ShowsPage),
      },
      {
        path: 'week/shows/:showId',
        title: 'Shows · Fuller',
        loadComponent: () => import('./week/shows-page').then((m) => m.ShowsPage),
      },
      {
        path: 'rules',
        title: 'Rules · Fuller',
        loadComponent: () => import('./rules/rules-page').then((m) => m.RulesPage),
      },
      {
        path: 'rules/limits',
        title: 'Statutory limits · Fuller',
        loadComponent: () => import('./rules/limits-page').then((m) => m.LimitsPage),
      },
      {
        path: 'breaks',
        title: 'Breaks · Fuller',
        loadComponent: () => import('./breaks/breaks-page').then((m) => m.BreaksPage),
      },
      {
        path: 'breaks/sponsors',
        title: 'Sponsors · Fuller',
        loadComponent: () => import('./sponsors/sponsors-page').then((m) => m.SponsorsPage),
      },
      {
        path: 'breaks/:date',
        title: 'Breaks · Fuller',
        loadComponent: () => import('./breaks/breaks-page').then((m) => m.BreaksPage),
      },
      { path: 'logs', title: 'Logs · Fuller', loadComponent: () => import('./logs/logs-page').then((m) => m.LogsPage) },
      {
        path: 'logs/:date',
        title: 'Logs · Fuller',
        loadComponent: () => import('./logs/logs-page').then((m) => m.LogsPage),
      },
      {
        path: 'logs/:date/week',
        title: 'Week of logs · Fuller',
        loadComponent: () => import('./logs/week-logs-page').then((m) => m.WeekLogsPage),
      },
      {
        path: 'hand-over',
        title: 'Hand-over · Fuller',
        loadComponent: () => import('./hand-over/hand-over-page').then((m) => m.HandOverPage),
      },
      {
        path: 'hand-over/:date',
        title: 'Hand-over · Fuller',
        loadComponent: () => import('./hand-over/hand-over-page').then((m) => m.HandOverPage),
      },
      {
        path: 'on-air',
        title: 'On air · Fuller',
        loadComponent: () => import('./on-air/on-air-page').then((m) => m.OnAirPage),
      },
      {
        path: 'on-air/as-run',
        title: 'What aired · Fuller',
        loadComponent: () => import('./on-air/as-run-page').then((m) => m.AsRunPage),
      },
      {
        path: 'on-air/as-run/:date',
        title: 'What aired · Fuller',
        loadComponent: () => import('./on-air/as-run-page').then((m) => m.AsRunPage),
      },
      {
        path: 'on-air/requests',
        title: 'Requests · Fuller',
        loadComponent: () => import('./on-air/requests-page').then((m) => m.RequestsPage),
      },
      {
        path: 'on-air/proof',
        title: 'Proof for sponsors · Fuller',
        loadComponent: () => import('./on-air/proof-page').then((m) => m.ProofPage),
      },
      {
        path: 'insight',
        title: 'Insight · Fuller',
        loadComponent: () => import('./insight/insight-page').then((m) => m.InsightPage),
      },
      {
        path: 'insight/forecast',
        title: 'Forecast · Fuller',
        loadComponent: () => import('./insight/forecast/forecast-page').then((m) => m.ForecastPage),
      },
      {
        path: 'insight/:report',
        title: 'Insight · Fuller',
        loadComponent: () => import('./insight/insight-page').then((m) => m.InsightPage),
      },
      {
        path: 'people',
        title: 'People · Fuller',
        loadComponent: () => import('./people/people-page').then((m) => m.PeoplePage),
      },
      {
        path: 'people/tokens',
        title: 'Other programs · Fuller',
        loadComponent: () => import('./people/tokens-page').then((m) => m.TokensPage),
      },
      {
        path: 'activity',
        title: 'Activity · Fuller',
        loadComponent: () => import('./people/activity-page').then((m) => m.ActivityPage),
      },
      {
        path: 'backups',
        title: 'Backups · Fuller',
        loadComponent: () => import('./care/backups-page').then((m) => m.BackupsPage),
      },
      { path: 'help', pathMatch: 'full', redirectTo: 'help/start' },
      {
        path: 'help/:pageId',
        title: 'Help · Fuller',
        loadComponent: () => import('./help/help-page').then((m) => m.HelpPage),
      },
      { path: '**', component: NotThere },
    ],
  },
];

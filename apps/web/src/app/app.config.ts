import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import { type ApplicationConfig, isDevMode, provideZonelessChangeDetection } from '@angular/core';
import { provideRouter, withComponentInputBinding, withRouterConfig } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore } from '@ngrx/store';
import { MessageService } from 'primeng/api';
import { providePrimeNG } from 'primeng/config';
import { appRoutes } from './app.routes';
import { dyersPreset } from './dyers.preset';
import { noteSignedOut } from './people/session-guard';
import * as catalogueEffects from './state/catalogue.effects';
import { catalogueFeature } from './state/catalogue.feature';
import * as daysEffects from './state/days.effects';
import { daysFeature } from './state/days.feature';
import * as jobsEffects from './state/jobs.effects';
import { jobsFeature } from './state/jobs.feature';
import * as undoEffects from './state/undo.effects';
import { undoFeature } from './state/undo.feature';

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideRouter(appRoutes, withComponentInputBinding(), withRouterConfig({ paramsInheritanceStrategy: 'always' })),
    provideHttpClient(withFetch(), withInterceptors([noteSignedOut])),
    provideStore(
      {},
      { runtimeChecks: { strictStateImmutability: isDevMode(), strictActionImmutability: isDevMode() } },
    ),
    provideState(catalogueFeature),
    provideState(daysFeature),
    provideState(jobsFeature),
    provideState(undoFeature),
    provideEffects(catalogueEffects, daysEffects, jobsEffects, undoEffects),
    providePrimeNG({
      theme: {
        preset: dyersPreset,
        options: { darkModeSelector: "[data-theme='dark']", cssLayer: { name: 'primeng', order: 'primeng, app' } },
      },
    }),
    MessageService,
  ],
};

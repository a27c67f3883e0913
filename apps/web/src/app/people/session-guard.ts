import type { HttpErrorResponse, HttpInterceptorFn } from '@angular/common/http';
import { inject, Injector } from '@angular/core';
import { Router, type CanActivateFn } from '@angular/router';
import { catchError, throwError } from 'rxjs';
import { Session } from '../shared/session/session.store';

/** Leads to signing in, and from there back to where one wanted to go. */
export const mustBeIn: CanActivateFn = async (_route, { url }) => {
  const [session, router] = [inject(Session), inject(Router)];
  await session.begin();
  if (session.isIn()) return true;
  return router.createUrlTree(['/sign-in'], url === '/' ? {} : { queryParams: { to: url } });
};

/** Who has been signed out meanwhile is asked to sign in again, and comes back to the same place. */
export const noteSignedOut: HttpInterceptorFn = (request, next) => {
  const injector = inject(Injector);
  return next(request).pipe(
    catchError((error: HttpErrorResponse) => {
      if (error.status === 401 && !request.url.startsWith('/api/session')) {
        // Not asked for before it is needed: reading the session goes through here itself.
        const [session, router] = [injector.get(Session), injector.get(Router)];
        // Before that, what a place asks for is led there by the guard, which knows where one wanted to go.
        if (session.isIn()) {
          session.lost();
          void router.navigate(['/sign-in'], { queryParams: { to: router.url } });
        }
      }
      return throwError(() => error);
    }),
  );
};

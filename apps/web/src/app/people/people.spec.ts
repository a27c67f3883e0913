import { describe, expect, it } from '@jest/globals';
import { provideHttpClient, withInterceptors } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { ChangeDetectionStrategy, Component } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import type { RoleAt, SessionView } from '@fuller/contracts';
import { provideStore, provideState, Store } from '@ngrx/store';
import { catalogueActions, catalogueFeature } from '../state/catalogue.feature';
import { Api } from '../shared/api/api';
import { May } from '../shared/session/may';
import { Session } from '../shared/session/session.store';
import { changeTitle, whoDid } from './activity-words';
import { withRole } from './people.store';
import { rolesWords } from './role-words';
import { mustBeIn, noteSignedOut } from './session-guard';
import { browserWords } from './session-words';

const viewOf = (roles: RoleAt[], more: Partial<SessionView> = {}): SessionView => ({
  state: 'signed-in',
  person: { id: 'p', name: 'Nell', mustChange: false },
  roles,
  demo: [],
  needsCode: false,
  mayBeOpen: false,
  ...more,
});
const at = (stationId: string | null, role: RoleAt['role'], showIds: string[] = []): RoleAt => ({
  stationId,
  role,
  showIds,
});

@Component({ template: '', changeDetection: ChangeDetectionStrategy.OnPush })
class Blank {}

@Component({
  imports: [May],
  template: `<button fMay="rules">Add</button>
    <div fMay="logs" fMayRead><input /></div>`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
class Screen {}

function setUp() {
  TestBed.configureTestingModule({
    providers: [
      provideHttpClient(withInterceptors([noteSignedOut])),
      provideHttpClientTesting(),
      provideRouter([
        { path: 'sign-in', component: Blank },
        { path: ':stationId/:place', component: Blank, canActivate: [mustBeIn] },
      ]),
      provideStore({}),
      provideState(catalogueFeature),
    ],
  });
  const http = TestBed.inject(HttpTestingController);
  const begin = async (view: SessionView): Promise<void> => {
    const reading = TestBed.inject(Session).begin();
    http.expectOne('/api/session').flush(view);
    await reading;
  };
  return { http, begin, router: TestBed.inject(Router), session: TestBed.inject(Session) };
}

describe('who works at this browser', () => {
  it('may do what their role at the station includes, and the station’s own role stands before the one for all', async () => {
    const { begin, session } = setUp();
    await begin(viewOf([at(null, 'viewer'), at('vale', 'traffic'), at('night', 'presenter', ['late'])]));
    expect([session.may('traffic', 'vale'), session.may('traffic', 'night'), session.may('look', 'other')]).toEqual([
      true,
      false,
      true,
    ]);
    expect([session.may('present', 'night'), session.showsAt('night'), session.may('people', 'vale')]).toEqual([
      true,
      ['late'],
      false,
    ]);
  });

  it('may do everything where there are no accounts', async () => {
    const { begin, session } = setUp();
    await begin(viewOf([], { state: 'open', person: null }));
    expect([session.isIn(), session.may('care', 'vale')]).toEqual([true, true]);
  });

  it('is led to sign in, and back to where they wanted to go', async () => {
    const { http, router } = setUp();
    const going = router.navigateByUrl('/vale/rules?rule=x');
    await new Promise((resolve) => setTimeout(resolve));
    http.expectOne('/api/session').flush(viewOf([], { state: 'signed-out', person: null }));
    await going;
    expect(router.url).toBe('/sign-in?to=%2Fvale%2Frules%3Frule%3Dx');
  });

  it('must choose a password first where one was given to them', async () => {
    const { begin, session, router } = setUp();
    await begin(viewOf([at(null, 'director')], { person: { id: 'p', name: 'Nell', mustChange: true } }));
    expect(session.isIn()).toBe(false);
    await router.navigateByUrl('/vale/library');
    expect(router.url).toBe('/sign-in?to=%2Fvale%2Flibrary');
  });

  it('is asked to sign in again when the server no longer knows them', async () => {
    const { http, begin, router, session } = setUp();
    await begin(viewOf([at(null, 'viewer')]));
    await router.navigateByUrl('/vale/library');
    const asked = TestBed.inject(Api)
      .stations()
      .catch((error: { code: string }) => error.code);
    const refusal = { code: 'SIGN_IN', status: 401, message: 'Sign in first.' };
    http.expectOne('/api/stations').flush(refusal, { status: 401, statusText: 'Unauthorized' });
    expect(await asked).toBe('SIGN_IN');
    await new Promise((resolve) => setTimeout(resolve, 10));
    expect([session.isIn(), router.url]).toEqual([false, '/sign-in?to=%2Fvale%2Flibrary']);
  });

  it('sees no button for what they may not do, and cannot use the fields they may read', async () => {
    const { begin } = setUp();
    await begin(viewOf([at('vale', 'viewer'), at('night', 'director')]));
    const screen = TestBed.createComponent(Screen);
    const store = TestBed.inject(Store);
    const state = async (stationId: string) => {
      store.dispatch(catalogueActions.stationOpened({ stationId }));
      await screen.whenStable();
      const host = screen.nativeElement as HTMLElement;
      return [host.querySelector('button')!.hidden, host.querySelector('div')!.hasAttribute('inert')];
    };
    expect(await state('vale')).toEqual([true, true]);
    expect(await state('night')).toEqual([false, false]);
  });
});

describe('words and roles', () => {
  it('set, change and take out a role, and keep the shows of a presenter alone', () => {
    const roles = [at('vale', 'presenter', ['early'])];
    expect(withRole(roles, 'vale', 'presenter')[0]!.showIds).toEqual(['early']);
    expect(withRole(roles, 'vale', 'viewer')[0]!.showIds).toEqual([]);
    expect(withRole(roles, null, 'viewer').map(({ stationId }) => stationId)).toEqual([null, 'vale']);
    expect(withRole(roles, 'vale', null)).toEqual([]);
    expect(rolesWords(withRole(roles, null, 'viewer'), () => 'Radio Vale')).toBe(
      'Viewer at every station, Presenter at Radio Vale',
    );
  });

  it('name browsers, doers and changes', () => {
    const firefox = 'Mozilla/5.0 (Windows NT 10.0; rv:130.0) Gecko/20100101 Firefox/130.0';
    expect([browserWords({ agent: firefox }), browserWords({ agent: 'curl/8' }), browserWords({ agent: '' })]).toEqual([
      'Firefox on Windows',
      'curl/8',
      'A program',
    ]);
    expect(whoDid({ clientId: 'nightly', personName: null })).toBe('by the nightly run');
    expect(whoDid({ clientId: 'tab', personName: 'Nell' })).toBe('Nell');
    expect(whoDid({ clientId: 'tab', personName: null })).toBe('in another browser');
    expect(changeTitle({ did: 'deleted', thing: 'clock', name: 'Day', fields: [] })).toBe('Deleted: clock “Day”');
  });
});

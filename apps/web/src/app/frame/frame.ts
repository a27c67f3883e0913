import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  viewChild,
} from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterOutlet } from '@angular/router';
import type { JobView } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { CLIENT_ID } from '../shared/api/api';
import { filter, map, startWith } from 'rxjs';
import { ServerEvents } from '../shared/api/server-events';
import { Notices } from '../shared/notices';
import { EmptyState } from '../shared/ui/empty-state';
import { catalogueActions, catalogueFeature } from '../state/catalogue.feature';
import { jobsActions, jobsFeature } from '../state/jobs.feature';
import { undoActions } from '../state/undo.feature';
import { ArchivedNote } from './archived-note';
import { KeysHelp } from './keys-help';
import { KeysPanel } from './keys-panel';
import { PLACES } from './places';
import { Rail } from './rail';
import { TopBar } from './top-bar';
import { UnreadableNotes } from './unreadable-notes';

/** After `g` a place's number is waited for this long. */
const GO_MS = 1200;

/** What stands round every place: the rail, the top, the keys that work everywhere. */
@Component({
  selector: 'f-frame',
  imports: [ArchivedNote, SmallButton, Rail, TopBar, RouterOutlet, KeysPanel, EmptyState, UnreadableNotes],
  template: `<f-rail [stationId]="stationId()" />
    <div class="right">
      <f-top-bar [stationId]="stationId()" [date]="date()" />
      <div><f-archived-note /><f-unreadable-notes /></div>
      <main id="main">
        @switch (status()) {
          @case ('failed') {
            <f-empty title="This station cannot be shown" [text]="message()"
              ><button fButton (click)="retry()">Try again</button></f-empty
            >
          }
          @case ('ready') {
            <router-outlet />
          }
          @default {
            <div class="loading" role="status"><span class="visually-hidden">Loading the station</span></div>
          }
        }
      </main>
    </div>
    <f-keys-panel />`,
  styles: `
    :host {
      display: grid;
      grid-template: minmax(0, 1fr) / auto minmax(0, 1fr);
      height: 100vh;
    }
    .right {
      display: grid;
      grid-template-rows: auto auto minmax(0, 1fr);
      min-width: 0;
    }
    main {
      /* Whether or not notes stand above it. */
      grid-row: 3;
      min-height: 0;
      overflow: hidden;
    }
    .loading {
      margin: 24px;
      height: 60%;
      border-radius: 6px;
      background: linear-gradient(var(--line) 1px, transparent 1px) 0 0 / 100% var(--row);
      opacity: 0.7;
    }
  `,
  host: { '(document:keydown)': 'onKey($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Frame {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly keys = inject(KeysHelp);
  private readonly notices = inject(Notices);
  private readonly topBar = viewChild.required(TopBar);
  readonly stationId = input.required<string>();

  protected readonly status = this.store.selectSignal(catalogueFeature.selectStatus);
  protected readonly message = this.store.selectSignal(catalogueFeature.selectMessage);
  private readonly jobs = this.store.selectSignal(jobsFeature.selectAllJobs);
  private readonly url = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map((event) => event.urlAfterRedirects),
      startWith(this.router.url),
    ),
    { initialValue: this.router.url },
  );
  /** The date in the address, if it names one. */
  protected readonly date = computed(() => /\/(\d{4}-\d{2}-\d{2})/.exec(this.url())?.[1] ?? null);
  private goUntil = 0;

  constructor() {
    this.store.dispatch(catalogueActions.loadStations());
    effect(() => this.store.dispatch(catalogueActions.stationOpened({ stationId: this.stationId() })));
    inject(ServerEvents)
      .events.pipe(takeUntilDestroyed(inject(DestroyRef)))
      .subscribe((event) => {
        if (event.type !== 'job') return;
        const before = this.jobs().find((job) => job.id === event.job.id);
        this.store.dispatch(jobsActions.changed({ job: event.job }));
        if (before?.state === 'running' && event.job.state !== 'running') this.tellEnd(event.job);
      });
  }

  /** What others started is theirs to undo; what a dry run found stands on its own page. */
  private tellEnd(job: JobView): void {
    if (job.clientId !== CLIENT_ID || job.kind === 'dry run') return;
    if (job.state === 'failed') this.notices.fail(`${job.label}: ${job.message}`);
    else if (!isPreview(job)) this.notices.say(job.message ?? job.label);
    if (job.activityId)
      this.store.dispatch(undoActions.did({ change: { activityId: job.activityId, label: job.label } }));
  }

  protected retry(): void {
    this.store.dispatch(catalogueActions.loadStations());
    this.store.dispatch(catalogueActions.stationOpened({ stationId: this.stationId() }));
  }

  protected onKey(event: KeyboardEvent): void {
    const control = event.ctrlKey || event.metaKey;
    const key = event.key.toLowerCase();
    if (key === 'f1') {
      event.preventDefault();
      this.topBar().help();
    } else if (control && key === 'k') {
      event.preventDefault();
      this.topBar().search().focus();
    } else if (event.altKey && key === '.') {
      event.preventDefault();
      this.topBar().nextStation();
    } else if (isTyping(event.target)) {
      return;
    } else if (control && key === 'z') {
      event.preventDefault();
      if (event.shiftKey) this.topBar().redo();
      else this.topBar().undo();
    } else if (control && key === 'y') {
      event.preventDefault();
      this.topBar().redo();
    } else if (!control && !event.altKey && !isSearchedByTyping(event.target)) this.onPlainKey(event);
  }

  private onPlainKey(event: KeyboardEvent): void {
    if (event.key === '?') {
      this.keys.open.set(true);
    } else if (event.key === 'g') {
      this.goUntil = event.timeStamp + GO_MS;
    } else if (event.timeStamp < this.goUntil) {
      const place = /^\d$/.test(event.key) ? PLACES[(Number(event.key) + 9) % 10] : undefined;
      this.goUntil = 0;
      if (place) void this.router.navigate(['/', this.stationId(), place.path]);
    }
  }
}

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && (target.isContentEditable || /^(?:input|textarea|select)$/i.test(target.tagName))
  );
}

/** A closed list of choices is searched by typing: letters are its own there. */
function isSearchedByTyping(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.matches('[role=combobox]');
}

/** A preview opens where it was asked for, and stands among the jobs until then. */
function isPreview({ result }: JobView): boolean {
  return result !== null && 'days' in result && result.preview === true;
}

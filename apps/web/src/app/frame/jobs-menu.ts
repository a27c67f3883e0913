import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { ButtonDirective } from 'primeng/button';
import type { JobView } from '@fuller/contracts';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { Popover } from 'primeng/popover';
import { ProgressBar } from 'primeng/progressbar';
import { Api } from '../shared/api/api';
import { Icon } from '../shared/ui/icon';
import { Changes } from '../state/changes';
import { jobsFeature } from '../state/jobs.feature';
import { May } from '../shared/session/may';

const STATE_WORDS: Readonly<Record<JobView['state'], string>> = {
  running: '',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
};

/** Long work: what runs, how far it is, what came of it. */
@Component({
  selector: 'f-jobs-menu',
  imports: [May, SmallButton, RouterLink, ButtonDirective, Popover, ProgressBar, Icon],
  template: `<button
      fButton="text"
      class="act"
      (click)="list.toggle($event)"
      [attr.aria-label]="running().length ? running().length + ' jobs running' : 'Jobs'"
      title="Jobs">
      <f-icon name="jobs" [size]="18" />
      @if (running()[0]; as job) {
        <span class="share mono">{{ percent(job) }}%</span>
      }
    </button>
    <p-popover #list>
      <div class="jobs" aria-live="polite">
        @for (job of latest(); track job.id) {
          <div class="job">
            <strong>{{ job.label }}</strong><span class="quiet">{{ words(job) }}</span>
            @if (job.state === 'running') {
              @if (job.kind !== 'stand-in') {
                <p-progressbar
                  [value]="percent(job)"
                  [showValue]="false"
                  [style]="{ height: '5px' }"
                  [attr.aria-label]="job.label" />
              }
              <span class="quiet small">{{ job.doing }}</span>
              <button
                fMay="logs"
                pButton
                size="small"
                text
                severity="danger"
                type="button"
                class="act"
                (click)="cancel(job)">
                {{ job.kind === 'stand-in' ? 'Stop' : 'Cancel' }}
              </button>
            } @else if (job.message) {
              <span class="small" [class.error-text]="job.state === 'failed'">{{ job.message }}</span>
            }
            @if (previewDate(job); as date) {
              <a
                class="small"
                [routerLink]="['/', job.stationId, 'logs', date]"
                [queryParams]="{ preview: job.id }"
                (click)="list.hide()"
                >Show what it would change</a
              >
            }
          </div>
        } @empty {
          <p class="quiet">No jobs since Fuller was started.</p>
        }
      </div>
    </p-popover>`,
  styles: `
    .share {
      font-weight: 600;
      color: var(--woad);
    }
    .jobs {
      width: 320px;
      max-height: 420px;
      overflow: auto;
      display: grid;
      gap: 12px;
    }
    .job {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 4px 8px;
      font-size: 14px;
      align-items: center;
    }
    p-progressbar,
    .small {
      grid-column: 1 / -1;
    }
    .small {
      font-size: 13px;
    }
    .job .act {
      grid-column: 2;
      height: 24px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class JobsMenu {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly jobs = inject(Store).selectSignal(jobsFeature.selectAllJobs);
  protected readonly latest = computed(() => [...this.jobs()].reverse().slice(0, 8));
  /** Stand-ins run as long as Fuller does, and are no work to wait for. */
  protected readonly running = computed(() =>
    this.jobs().filter(({ state, kind }) => state === 'running' && kind !== 'stand-in'),
  );

  protected percent(job: JobView): number {
    return Math.round(job.progress * 100);
  }

  /** The first day of a preview; null for other jobs. */
  protected previewDate({ state, result }: JobView): string | null {
    const isReady = state === 'done' && result !== null && 'days' in result && result.preview;
    return isReady ? (result.days[0]?.date ?? null) : null;
  }

  protected words(job: JobView): string {
    if (job.kind === 'stand-in') return job.state === 'running' ? 'runs' : 'ended';
    return job.state === 'running' ? `${this.percent(job)}%` : STATE_WORDS[job.state];
  }

  protected async cancel(job: JobView): Promise<void> {
    await this.api.cancelJob({ id: job.id }).catch((error: unknown) => this.changes.tell(error));
  }
}

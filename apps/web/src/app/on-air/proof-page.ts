import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  signal,
  untracked,
} from '@angular/core';
import type { SponsorProof } from '@fuller/contracts';
import { addDays, formatDuration } from '@fuller/core';
import { Store } from '@ngrx/store';
import { TableModule } from 'primeng/table';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { dayYearText } from '../shared/text/when';
import { Choice } from '../shared/ui/choice';
import { DateField } from '../shared/ui/date-field';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { SmallButton } from '../shared/ui/small-button';
import { catalogueFeature } from '../state/catalogue.feature';
import { OnAirTabs } from './on-air-tabs';

/** When the spots and messages of a sponsor aired between two dates, to be handed to them. */
@Component({
  selector: 'f-proof-page',
  imports: [Choice, DateField, EmptyState, Icon, OnAirTabs, SmallButton, TableModule],
  templateUrl: './proof-page.html',
  styleUrl: './proof-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProofPage {
  private readonly api = inject(Api);
  private readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  private readonly newest = new Newest();
  readonly stationId = input.required<string>();

  protected readonly to = linkedSignal(() => this.station()?.today ?? '');
  protected readonly from = linkedSignal(() => (this.station() ? addDays(this.station()!.today, -6) : ''));
  protected readonly sponsors = signal<readonly string[]>([]);
  protected readonly sponsor = signal('');
  protected readonly proof = signal<SponsorProof | null>(null);
  protected readonly problem = signal('');
  protected readonly options = computed(() => this.sponsors().map((name) => ({ value: name, label: name })));
  protected readonly sum = computed(() => {
    const rows = this.proof()?.rows ?? [];
    const aired = rows.filter(({ durationMs }) => durationMs > 0);
    const lost = rows.filter(({ aired: at }) => at === null).length;
    const total = formatDuration(aired.reduce((ms, { durationMs }) => ms + durationMs, 0));
    return `${aired.length} aired, ${total} on the air${lost > 0 ? `; ${lost} did not air` : ''}.`;
  });

  constructor() {
    inject(KeysHelp).place.set({ name: 'Proof for sponsors', keys: [] });
    effect(() => {
      const [stationId, from, to] = [this.stationId(), this.from(), this.to()];
      if (from && to) untracked(() => void this.find(stationId, from, to));
    });
    effect(() => {
      const [stationId, from, to, sponsor] = [this.stationId(), this.from(), this.to(), this.sponsor()];
      if (sponsor && from && to) untracked(() => void this.read(stationId, { from, to, sponsor }));
    });
  }

  protected day(date: string): string {
    return dayYearText(date);
  }

  protected length(ms: number): string {
    return ms > 0 ? formatDuration(ms) : '';
  }

  protected unknown(dates: readonly string[]): string {
    return dates.map((date) => this.day(date)).join(', ');
  }

  protected url(name: 'sponsorProofCsv' | 'sponsorProofPdf'): string {
    return this.api.urlOf(name, {
      stationId: this.stationId(),
      sponsor: this.sponsor(),
      from: this.from(),
      to: this.to(),
    });
  }

  private async find(stationId: string, from: string, to: string): Promise<void> {
    this.problem.set('');
    try {
      const sponsors = await this.api.sponsors({ stationId, from, to });
      this.sponsors.set(sponsors);
      if (!sponsors.includes(this.sponsor())) {
        this.sponsor.set(sponsors[0] ?? '');
        if (!sponsors.length) this.proof.set(null);
      }
    } catch (error) {
      this.sponsors.set([]);
      this.proof.set(null);
      this.problem.set(error instanceof Error ? error.message : String(error));
    }
  }

  private async read(stationId: string, asked: { from: string; to: string; sponsor: string }): Promise<void> {
    const isNewest = this.newest.begin();
    const proof = await this.api.sponsorProof({ stationId, ...asked }).catch(() => null);
    if (isNewest()) this.proof.set(proof);
  }
}

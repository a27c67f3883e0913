import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RadioButton } from 'primeng/radiobutton';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import type { HandOverPreview, HandOverRecord, HandOverSettings, HandOverState } from '@fuller/contracts';
import { addDays, formatAirTime, formatDuration, PATTERN_WORDS } from '@fuller/core';
import { Store } from '@ngrx/store';
import { debounceTime, filter, Subject } from 'rxjs';
import { KeysHelp } from '../frame/keys-help';
import { Api, ApiError } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { Notices } from '../shared/notices';
import { ServerEvents } from '../shared/api/server-events';
import { plural } from '../shared/text/plural';
import { longDayText, whenText } from '../shared/text/when';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';

const WHY_WORDS: Readonly<Record<string, string>> = {
  'open slot': 'slots still open',
  'no file': 'items without a file',
  'file not there': 'items whose file is not in its place',
  break: 'breaks, which the traffic system fills',
  'item deleted': 'items that have been deleted',
};
const SHOWN_HELD = 80;

/** The player's files of a day: how they are named, what is in them, what is left out. */
@Component({
  selector: 'f-hand-over-page',
  imports: [ButtonDirective, InputText, RadioButton, FormsModule, RouterLink, Icon, EmptyState, Inspector],
  templateUrl: './hand-over-page.html',
  styleUrl: './hand-over-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HandOverPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  private readonly store = inject(Store);
  readonly stationId = input.required<string>();
  readonly date = input<string>();

  protected readonly words = PATTERN_WORDS;
  protected readonly station = this.store.selectSignal(catalogueFeature.selectStation);
  protected readonly settings = signal<HandOverSettings | null>(null);
  protected readonly records = signal<readonly HandOverRecord[]>([]);
  protected readonly preview = signal<HandOverPreview | null>(null);
  protected readonly problem = signal<{ code: string; text: string } | null>(null);
  protected readonly shownFile = signal(0);
  protected readonly writing = signal(false);
  private readonly asked = new Subject<void>();
  protected readonly url = computed(() => {
    const [settings, date] = [this.settings(), this.date()];
    return settings && date
      ? this.api.urlOf('downloadHandOver', {
          stationId: this.stationId(),
          date,
          pattern: settings.pattern,
          hourly: settings.hourly ? 'true' : 'false',
        })
      : '';
  });
  protected readonly held = computed(() => {
    const counts = new Map<string, { why: string; titles: string[]; count: number }>();
    for (const { why, title } of this.preview()?.heldBack ?? []) {
      const group = counts.get(why) ?? { why, titles: [], count: 0 };
      group.count++;
      if (group.titles.length < SHOWN_HELD && !group.titles.includes(title)) group.titles.push(title);
      counts.set(why, group);
    }
    return [...counts.values()];
  });
  protected readonly total = computed(() => this.preview()?.files.reduce((sum, file) => sum + file.entries, 0) ?? 0);

  constructor() {
    inject(KeysHelp).place.set({ name: 'Hand-over', keys: [] });
    effect(() => {
      const [stationId, date, today] = [this.stationId(), this.date(), this.station()?.today];
      untracked(() => {
        if (!date && today) void this.router.navigate(['/', stationId, 'hand-over', today], { replaceUrl: true });
        else if (date) void this.load();
      });
    });
    this.asked.pipe(debounceTime(150), takeUntilDestroyed()).subscribe(() => void this.look());
    inject(ServerEvents)
      .events.pipe(
        filter(
          (event) =>
            event.type === 'log' ||
            (event.type === 'changed' && (event.what.includes('logs') || event.what.includes('hand-over'))),
        ),
        debounceTime(80),
        takeUntilDestroyed(),
      )
      .subscribe(() => void this.load());
  }

  private readonly newest = new Newest();

  private async load(): Promise<void> {
    const isNewest = this.newest.begin();
    const state = await this.api
      .handOver({ stationId: this.stationId(), date: this.date()! })
      .catch((error: unknown) => this.fail(error));
    if (!state || !isNewest()) return;
    this.take(state);
    await this.look();
  }

  private take({ settings, records }: HandOverState): void {
    if (!this.settings()) this.settings.set(settings);
    this.records.set(records);
  }

  private readonly newestPreview = new Newest();

  private async look(): Promise<void> {
    const isNewest = this.newestPreview.begin();
    const preview = await this.api
      .previewHandOver({ stationId: this.stationId() }, { date: this.date()!, ...this.settings()! })
      .catch((error: unknown) => this.fail(error));
    if (!preview || !isNewest()) return;
    this.problem.set(null);
    this.preview.set(preview);
    this.shownFile.update((index) => Math.min(index, preview.files.length - 1));
  }

  private fail(error: unknown): null {
    this.problem.set(
      error instanceof ApiError
        ? { code: error.code, text: error.message }
        : { code: 'UNEXPECTED', text: String(error) },
    );
    if (!(error instanceof ApiError && error.field === 'pattern')) this.preview.set(null);
    return null;
  }

  protected setPattern(pattern: string): void {
    this.settings.update((settings) => ({ ...settings!, pattern }));
    this.asked.next();
  }

  protected setHourly(hourly: boolean): void {
    this.settings.update((settings) => {
      const pattern = settings!.pattern;
      // Hourly files need the hour in their names; a pattern that has it is left as it is.
      return {
        hourly,
        pattern: hourly && !pattern.includes('{hour}') ? pattern.replace(/(\.[^.]*)?$/, '_{hour}$1') : pattern,
      };
    });
    this.asked.next();
  }

  protected async write(): Promise<void> {
    this.writing.set(true);
    const record = await this.api
      .writeHandOver({ stationId: this.stationId() }, { date: this.date()!, ...this.settings()! })
      .catch((error: unknown) => this.fail(error));
    this.writing.set(false);
    if (record) this.notices.say(`${plural(record.files.length, 'file')} written to ${record.folder}`);
  }

  protected goDay(step: number): void {
    void this.router.navigate(['/', this.stationId(), 'hand-over', addDays(this.date()!, step)]);
  }

  protected clock(ms: number): string {
    return formatAirTime(ms, this.station()?.timeZone ?? 'UTC');
  }

  protected length(ms: number): string {
    return formatDuration(ms);
  }

  protected longDate(): string {
    return this.date() ? longDayText(this.date()!) : '';
  }

  protected when(ms: number): string {
    const station = this.station();
    return station ? whenText(ms, station.timeZone, station.today) : '';
  }

  protected why(why: string): string {
    return WHY_WORDS[why] ?? why;
  }

  protected entries(count: number): string {
    return plural(count, 'entry', 'entries');
  }

  protected files(count: number): string {
    return plural(count, 'file');
  }
}

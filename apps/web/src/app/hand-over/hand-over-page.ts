import { ChangeDetectionStrategy, Component, effect, inject, input, untracked } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { FormsModule } from '@angular/forms';
import { RadioButton } from 'primeng/radiobutton';
import { InputText } from 'primeng/inputtext';
import { ButtonDirective } from 'primeng/button';
import { Router, RouterLink } from '@angular/router';
import { addDays, formatAirTime, formatDuration, PATTERN_WORDS } from '@fuller/core';
import { Store } from '@ngrx/store';
import { KeysHelp } from '../frame/keys-help';
import { Notices } from '../shared/notices';
import { plural } from '../shared/text/plural';
import { longDayText, whenText } from '../shared/text/when';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { Inspector } from '../shared/ui/inspector';
import { catalogueFeature } from '../state/catalogue.feature';
import { HandOverStore } from './hand-over.store';

const WHY_WORDS: Readonly<Record<string, string>> = {
  'open slot': 'slots still open',
  'no file': 'items without a file',
  'file not there': 'items whose file is not in its place',
  break: 'breaks, which the traffic system fills',
  'item deleted': 'items that have been deleted',
};

/** The player's files of a day: how they are named, what is in them, what is left out. */
@Component({
  selector: 'f-hand-over-page',
  imports: [SmallButton, ButtonDirective, InputText, RadioButton, FormsModule, RouterLink, Icon, EmptyState, Inspector],
  templateUrl: './hand-over-page.html',
  styleUrl: './hand-over-page.scss',
  providers: [HandOverStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class HandOverPage {
  protected readonly output = inject(HandOverStore);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  readonly stationId = input.required<string>();
  readonly date = input<string>();

  protected readonly words = PATTERN_WORDS;
  protected readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);

  constructor() {
    inject(KeysHelp).place.set({ name: 'Hand-over', keys: [] });
    effect(() => {
      const [stationId, date, today] = [this.stationId(), this.date(), this.station()?.today];
      untracked(() => {
        if (!date && today) void this.router.navigate(['/', stationId, 'hand-over', today], { replaceUrl: true });
        else if (date) void this.output.openDay(stationId, date);
      });
    });
  }

  protected async write(): Promise<void> {
    const record = await this.output.write();
    if (record) this.notices.say(`${plural(record.files.length, 'file')} written to ${record.folder}`);
  }

  protected goDay(step: number): void {
    void this.router.navigate([
      '/',
      this.stationId(),
      'hand-over',
      addDays(this.date() ?? this.station()?.today ?? '', step),
    ]);
  }

  protected clock(ms: number): string {
    return formatAirTime(ms, this.station()?.timeZone ?? 'UTC');
  }

  protected length(ms: number): string {
    return formatDuration(ms);
  }

  protected longDate(): string {
    const date = this.date();
    return date ? longDayText(date) : '';
  }

  protected when(ms: number): string {
    const station = this.station();
    return station ? whenText(ms, station.timeZone, station.today) : '';
  }

  protected why(why: string): string {
    return WHY_WORDS[why] ?? why;
  }

  protected heldTitle(): string {
    const held = this.output.preview()?.heldBack;
    return held ? this.entries(held.length) : '';
  }

  protected entries(count: number): string {
    return plural(count, 'entry', 'entries');
  }

  protected files(count: number): string {
    return plural(count, 'file');
  }
}

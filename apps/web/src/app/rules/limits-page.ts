import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { ButtonDirective } from 'primeng/button';
import { Checkbox } from 'primeng/checkbox';
import { InputText } from 'primeng/inputtext';
import { KeysHelp } from '../frame/keys-help';
import { DateField } from '../shared/ui/date-field';
import { Icon } from '../shared/ui/icon';
import { LimitsStore } from './limits.store';
import { May } from '../shared/session/may';

/** The statutory limits for web radio: what they are, and whether a log or a playlist keeps them. */
@Component({
  selector: 'f-limits-page',
  imports: [May, SmallButton, ButtonDirective, Checkbox, DateField, FormsModule, Icon, InputText, RouterLink],
  templateUrl: './limits-page.html',
  styleUrl: './limits-page.scss',
  providers: [LimitsStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LimitsPage {
  protected readonly limits = inject(LimitsStore);
  readonly stationId = input.required<string>();
  protected from = '';
  protected days = 1;
  protected readonly today = computed(() => this.limits.station()?.today ?? '');

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Statutory limits',
      keys: [{ keys: ['Tab'], does: 'through file, days and what was found' }],
    });
  }

  protected choose(event: Event): void {
    const field = event.target as HTMLInputElement;
    const [file] = field.files ?? [];
    field.value = '';
    if (file) void this.limits.checkFile(file);
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    const [file] = event.dataTransfer?.files ?? [];
    if (file) void this.limits.checkFile(file);
  }

  protected addAlbum(field: HTMLInputElement): void {
    const name = field.value.trim();
    const { exemptAlbums } = this.limits.settings();
    field.value = '';
    if (name !== '' && !exemptAlbums.includes(name)) this.limits.exempt([...exemptAlbums, name]);
  }

  protected dropAlbum(name: string): void {
    this.limits.exempt(this.limits.settings().exemptAlbums.filter((one) => one !== name));
  }

  protected checkDays(): void {
    void this.limits.checkDays(this.from || this.today(), Math.min(31, Math.max(1, Math.round(this.days) || 1)));
  }
}

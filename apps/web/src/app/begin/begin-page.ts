import { ChangeDetectionStrategy, Component, computed, effect, inject, input, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { SetUpView } from '@fuller/contracts';
import { formatDuration, parseDuration } from '@fuller/core';
import { InputText } from 'primeng/inputtext';
import { TableModule } from 'primeng/table';
import { ClockNames } from '../clocks/clock-names';
import { KeysHelp } from '../frame/keys-help';
import { reloadOn } from '../shared/api/reload-on';
import { May } from '../shared/session/may';
import { turnoverText } from '../shared/text/turnover';
import { Band } from '../shared/ui/band';
import { Choice } from '../shared/ui/choice';
import { HourRing } from '../shared/ui/hour-ring';
import { hourParts } from '../shared/ui/hour-shape';
import { Icon } from '../shared/ui/icon';
import { SmallButton } from '../shared/ui/small-button';
import { BeginSongs } from './begin-songs';
import { BeginStore } from './begin.store';
import { BorderPicture } from './border-picture';

const STEPS = [
  { step: 1, word: 'Songs' },
  { step: 2, word: 'Categories' },
  { step: 3, word: 'Clocks, week and rules' },
] as const;
const USUAL_LENGTH_MS = 210_000;

/** From somebody’s own songs to a first good day, in three steps. */
@Component({
  selector: 'f-begin-page',
  imports: [
    Band,
    BeginSongs,
    BorderPicture,
    Choice,
    FormsModule,
    HourRing,
    Icon,
    InputText,
    May,
    RouterLink,
    SmallButton,
    TableModule,
  ],
  providers: [BeginStore],
  templateUrl: './begin-page.html',
  styleUrl: './begin-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BeginPage {
  protected readonly store = inject(BeginStore);
  private readonly router = inject(Router);
  private readonly clockNames = inject(ClockNames);
  protected readonly turnover = turnoverText;
  readonly stationId = input.required<string>();
  readonly step = input<string>();
  protected readonly steps = STEPS;
  protected readonly usual = formatDuration(USUAL_LENGTH_MS);
  protected readonly breakCounts = [
    { value: '0', label: 'no breaks' },
    { value: '1', label: 'one break an hour' },
    { value: '2', label: 'two breaks an hour' },
  ];

  /** The step of the address, or the first that is not taken. */
  protected readonly now = computed(() => {
    const asked = Number(this.step());
    return asked >= 1 && asked <= 3 ? asked : this.store.nextStep();
  });
  protected readonly axes = computed(() =>
    (this.store.view()?.axes ?? []).map(({ key, name }) => ({ value: key, label: name })),
  );

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Begin',
      keys: [{ keys: ['←', '→'], does: 'move the border that has the focus' }],
    });
    effect(() => {
      const stationId = this.stationId();
      untracked(() => void this.store.open(stationId));
    });
    effect(() => {
      const wanted = this.now() === 3 && (this.store.view()?.clocks ?? 1) === 0;
      if (wanted) untracked(() => void this.store.propose());
    });
    reloadOn(['library', 'catalogue'], () => this.store.load(), { burstMs: 400 });
  }

  protected isDone(step: number): boolean {
    return step < this.store.nextStep();
  }

  protected go(step: number | null): void {
    void this.router.navigate(['/', this.stationId(), 'begin'], { queryParams: step === null ? {} : { step } });
  }

  protected async brought(): Promise<void> {
    await this.store.load();
    this.go(2);
  }

  protected async makeCategories(): Promise<void> {
    if (await this.store.makeCategories()) this.go(3);
  }

  protected async setUp(): Promise<void> {
    const date = await this.store.makeSetUp();
    if (date) await this.router.navigate(['/', this.stationId(), 'logs', date]);
  }

  protected giveLengths(text: string): void {
    const ms = parseDuration(text);
    if (ms !== null) void this.store.giveLengths(ms);
  }

  protected category(id: string) {
    return this.store.view()?.categories.find((one) => one.id === id);
  }

  protected ringOf({ lines, lengthMs }: SetUpView['clocks'][number]) {
    return hourParts(
      lines.map((line) => ({ line: line as never })),
      this.clockNames.lengths(),
      this.clockNames.names(),
      lengthMs,
    ).parts;
  }

  /** How many songs of each category an hour plays: `2 Current, 15 Gold`. */
  protected hourWords({ lines }: SetUpView['clocks'][number]): string {
    const counts = new Map<string, number>();
    for (const line of lines)
      if (line.kind === 'pick') counts.set(line.categoryId, (counts.get(line.categoryId) ?? 0) + 1);
    const breaks = lines.filter(({ kind }) => kind === 'break').length;
    const songs = [...counts].map(([id, count]) => `${count} ${this.category(id)?.name ?? ''}`);
    return [...songs, ...(breaks ? [breaks === 1 ? 'a break' : `${breaks} breaks`] : [])].join(', ');
  }
}

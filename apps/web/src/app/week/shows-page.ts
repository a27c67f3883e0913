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
import { ButtonDirective } from 'primeng/button';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { ShowRow } from '@fuller/contracts';
import {
  asWords,
  BAND_COLOURS,
  formatDuration,
  LONGEST_SHOW_MINUTES,
  nameKey,
  NO_FRAMING,
  parseDuration,
  type Framing,
} from '@fuller/core';
import { Store } from '@ngrx/store';
import { AutoComplete } from 'primeng/autocomplete';
import { ClockNames } from '../clocks/clock-names';
import { weekTimes } from '../clocks/line-words';
import { StaleLogs } from '../clocks/stale-logs';
import { KeysHelp } from '../frame/keys-help';
import { Api } from '../shared/api/api';
import { LatestAnswer } from '../shared/latest-answer';
import { ColourPicker } from '../shared/ui/colour-picker';
import { EmptyState } from '../shared/ui/empty-state';
import { Icon } from '../shared/ui/icon';
import { NameForm } from '../shared/ui/name-form';
import { InlineEdit } from '../shared/ui/inline-edit';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { newerOf } from './newer-of';
import { Choice, type ChoiceOption } from '../shared/ui/choice';
import { WeekTabs } from './week-tabs';

interface Offer {
  readonly id: string;
  readonly text: string;
}
type FrameField = keyof Framing;
const FRAMES: readonly { readonly field: FrameField; readonly label: string; readonly says: string }[] = [
  {
    field: 'hourOpenerId',
    label: 'Opens every hour',
    says: 'as the hour strikes, such as the station ID the law asks for',
  },
  { field: 'hourCloserId', label: 'Closes every hour', says: 'before the hour strikes' },
  { field: 'showOpenerId', label: 'Opens every show', says: 'at its start, before what the show itself opens with' },
  {
    field: 'showCloserId',
    label: 'Closes every show',
    says: 'at its end; with fill in it an exact end is reached to the second',
  },
  { field: 'momentsId', label: 'Moments of every hour', says: 'the timed events of this clock stand in all clocks' },
];

type OwnFrame = 'openerId' | 'closerId' | 'hourOpenerId';
const SHOW_FRAMES: readonly { readonly field: OwnFrame; readonly label: string; readonly none: string }[] = [
  { field: 'openerId', label: 'Opens with', none: 'what opens every show' },
  { field: 'closerId', label: 'Closes with', none: 'what closes every show' },
  { field: 'hourOpenerId', label: 'Its hours open with', none: 'what opens every hour' },
];

/** Shows with their clocks, start and end, and what the station puts round all hours and shows. */
@Component({
  selector: 'f-shows-page',
  imports: [
    Choice,
    ButtonDirective,
    NameForm,
    RouterLink,
    FormsModule,
    AutoComplete,
    InlineEdit,
    EmptyState,
    Icon,
    ColourPicker,
    WeekTabs,
    StaleLogs,
  ],
  templateUrl: './shows-page.html',
  styleUrl: './shows-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShowsPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  private readonly clockNames = inject(ClockNames);
  readonly stationId = input.required<string>();
  /** A show's id, or `every-hour` for what frames them all. */
  readonly showId = input<string>();

  protected readonly frames = FRAMES;
  protected readonly showFrames = SHOW_FRAMES;
  protected readonly clocks = this.store.selectSignal(catalogueFeature.selectAllClocks);
  protected readonly shows = this.store.selectSignal(catalogueFeature.selectShows);
  private readonly week = this.store.selectSignal(catalogueFeature.selectWeek);
  protected readonly framing = computed(() => this.week()?.framing ?? NO_FRAMING);
  private readonly stored = computed(() => this.shows().find(({ id }) => id === this.showId()) ?? null);
  protected readonly show = linkedSignal<ShowRow | null, ShowRow | null>({
    source: this.stored,
    computation: (stored, before) => newerOf(stored, before?.value ?? null),
  });
  /** Asked for by name: begins a new one. */
  readonly new = input<string>();
  protected readonly making = signal(false);
  protected readonly text = signal<string | Offer>('');
  protected readonly offers = signal<Offer[]>([]);
  protected readonly answers = new LatestAnswer<Offer>(
    (query) => this.find(query),
    (found) => this.offers.set(found),
    (offer) => this.takeAnnouncement(offer),
  );

  constructor() {
    effect(() => {
      if (this.new()) untracked(() => this.making.set(true));
    });
    inject(KeysHelp).place.set({ name: 'Shows', keys: [{ keys: ['Tab'], does: 'from one field to the next' }] });
    effect(() => {
      const [asked, first] = [this.showId(), this.shows()[0]];
      untracked(() => {
        if (!asked)
          void this.router.navigate(['/', this.stationId(), 'week', 'shows', first?.id ?? 'every-hour'], {
            replaceUrl: true,
          });
      });
    });
  }

  protected timesOf(id: string): string {
    const blocks = (this.week()?.blocks ?? []).filter((block) => block.runs === 'show' && block.id === id);
    return weekTimes(blocks.map(({ at, minutes }) => ({ from: at, to: at + minutes }))) || 'not in the week';
  }

  protected announcement(): string {
    const id = this.show()?.announcementId;
    return id ? this.clockNames.names().itemTitle(id) : '';
  }

  protected length(minutes: number): string {
    return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;
  }

  protected tolerance(): string {
    return formatDuration(this.show()!.toleranceMs);
  }

  protected readonly nameFault = (name: string): string | null => {
    if (name.trim() === '') return 'A show needs a name.';
    return this.shows().some((show) => show.id !== this.showId() && nameKey(show.name) === nameKey(name))
      ? 'There is a show of that name already.'
      : null;
  };

  protected readonly lengthFault = (text: string): string | null => {
    const minutes = minutesOf(text);
    return minutes === null ? 'Write hours and minutes like 3:00, in steps of five minutes, at most 24:00.' : null;
  };

  protected readonly toleranceFault = (text: string): string | null => {
    const ms = parseDuration(text);
    return ms === null || ms < 1000 || ms > 60_000 ? 'Write one to sixty seconds, like 0:05.' : null;
  };

  protected readonly create = async (name: string): Promise<string | null> => {
    const [clock] = this.clocks();
    if (!clock) return 'A show needs a clock; make one first.';
    const colour = BAND_COLOURS[this.shows().length % BAND_COLOURS.length]!;
    const made = await this.changes.made(
      this.api.createShow({ stationId: this.stationId() }, { name, colour, clockIds: [clock.id], minutes: 60 }),
    );
    if (typeof made === 'string') return made;
    this.making.set(false);
    void this.router.navigate(['/', this.stationId(), 'week', 'shows', made.id]);
    return null;
  };

  protected async save(patch: Partial<ShowRow>): Promise<void> {
    const before = this.show();
    if (!before) return;
    // The server counts a revision for every change, so the next one can be sent without asking.
    this.show.set({ ...before, ...patch, revision: before.revision + 1 });
    const saved = await this.changes.run(
      this.api.patchShow({ stationId: this.stationId(), id: before.id }, { revision: before.revision, ...patch }),
    );
    if (!saved) this.show.set(this.stored());
  }

  protected takeLength(text: string): void {
    void this.save({ minutes: minutesOf(text)! });
  }

  protected takeTolerance(text: string): void {
    void this.save({ toleranceMs: parseDuration(text)! });
  }

  protected readonly starts = [
    { value: 'soft', label: 'soft: when what is before it has ended' },
    { value: 'hard', label: 'hard: at that second, cutting what plays' },
  ];
  protected readonly ends = [
    { value: 'soft', label: 'soft: with its last item' },
    { value: 'exact', label: 'exact: filled to the second' },
  ];
  protected readonly afters = [
    { value: 'next', label: 'what the week has next, or the default' },
    { value: 'silence', label: 'silence for another source, until the next block' },
  ];

  /** The clocks to choose among, after the word for none of them. */
  protected clockOptions(none?: string): ChoiceOption[] {
    const clocks = this.clocks().map(({ id, name }) => ({ value: id, label: name }));
    return none === undefined ? clocks : [{ value: '', label: none }, ...clocks];
  }

  protected setClock(place: number, id: string): void {
    void this.save({ clockIds: this.show()!.clockIds.map((old, n) => (n === place ? id : old)) });
  }

  protected addClock(): void {
    void this.save({ clockIds: [...this.show()!.clockIds, this.show()!.clockIds.at(-1)!] });
  }

  protected dropClock(place: number): void {
    void this.save({ clockIds: this.show()!.clockIds.filter((_, n) => n !== place) });
  }

  protected clockLength(id: string): string {
    return formatDuration(this.clocks().find((clock) => clock.id === id)?.lengthMs ?? 0);
  }

  private async find(query: string): Promise<Offer[]> {
    if (query.trim().length < 2) return [];
    const page = await this.api.items({ stationId: this.stationId(), q: asWords(query), limit: 8 }).catch(() => null);
    return (page?.rows ?? []).map((row) => {
      this.clockNames.remember(row.id, row.title, row.durationMs);
      return { id: row.id, text: row.title };
    });
  }

  protected takeAnnouncement(offer: Offer): void {
    this.text.set('');
    void this.save({ announcementId: offer.id });
  }

  protected async setFrame(field: FrameField, id: string): Promise<void> {
    const week = this.week();
    if (!week) return;
    const framing = { ...week.framing, [field]: id || null };
    await this.changes.run(this.api.saveWeek({ stationId: this.stationId() }, { revision: week.revision, framing }));
  }

  protected setOwn(field: OwnFrame, id: string): void {
    void this.save({ [field]: id || null });
  }

  protected async remove(): Promise<void> {
    const id = this.show()?.id;
    if (id && (await this.changes.run(this.api.deleteShow({ stationId: this.stationId(), id }))))
      void this.router.navigate(['/', this.stationId(), 'week', 'shows']);
  }
}

/** Minutes of `3:00` or `90`; null for what is no length, or none of the five-minute grain. */
function minutesOf(text: string): number | null {
  const found = /^(?:(\d{1,2}):)?(\d{1,4})$/.exec(text.trim());
  if (!found) return null;
  const minutes = Number(found[1] ?? 0) * 60 + Number(found[2]);
  return minutes < 5 || minutes > LONGEST_SHOW_MINUTES || minutes % 5 ? null : minutes;
}

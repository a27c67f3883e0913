import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  Injector,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import type { CategoryRow, Right, SharedKind, Sharing } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { InputText } from 'primeng/inputtext';
import { catalogueFeature } from '../../state/catalogue.feature';
import { Changes } from '../../state/changes';
import { Api } from '../api/api';
import { reloadOn } from '../api/reload-on';
import { May } from '../session/may';
import { Icon } from '../ui/icon';
import { SmallButton } from '../ui/small-button';
import { freeCode, ownName, stationLines } from './sharing-words';

/** Whether a thing belongs to the station or to all, who uses it, and the way from one to the other. */
@Component({
  selector: 'f-sharing',
  imports: [Icon, InputText, May, SmallButton],
  template: `@if (several() && sharing(); as it) {
      <h3 class="label">{{ it.scope === 'group' ? 'Shared with all stations' : 'This station’s own' }}</h3>
      @if (it.scope === 'group') {
        <ul aria-label="Used at">
          @for (line of lines(); track line.station) {
            <li [class.here]="line.here">
              <b>{{ line.station }}</b>
              @if (line.uses) {
                <small class="quiet" [title]="line.all">{{ line.uses }}</small>
              }
            </li>
          } @empty {
            <li class="quiet">No station uses it yet.</li>
          }
        </ul>
        @if (elsewhere()) {
          <p class="warn">
            <f-icon name="alert" [size]="14" />A change here changes
            {{ elsewhere() === 1 ? 'another station' : elsewhere() + ' other stations' }} as well.
          </p>
        }
      }
      @if (!asking()) {
        <button [fMay]="right()" fButton (click)="begin(it)">
          {{ it.scope === 'group' ? 'Make it this station’s own' : 'Share with all stations' }}
        </button>
      } @else {
        <form
          class="ask"
          (submit)="$event.preventDefault(); it.scope === 'group' ? makeOwn(it) : share()"
          (keydown.escape)="stop($event)">
          @if (it.scope === 'station') {
            @if (it.refusal) {
              <p class="error-text" role="alert">{{ it.refusal }}</p>
            } @else {
              <p>
                Every station will see it and can use it.
                @if (it.along.length) {
                  Shared along with it: {{ it.along.join(', ') }}.
                }
              </p>
            }
          } @else if (it.copies && it.kind !== 'rule') {
            <p>Other stations keep the shared one. This station gets a copy, and what it has goes over to the copy.</p>
            <div class="pair">
              <label class="label" for="own-name">Name</label>
              <input
                pInputText
                pSize="small"
                id="own-name"
                [value]="name()"
                (input)="name.set($any($event.target).value)"
                autocomplete="off" />
            </div>
            @if (it.kind === 'category') {
              <div class="pair">
                <label class="label" for="own-code">Code</label>
                <input
                  pInputText
                  pSize="small"
                  id="own-code"
                  class="mono"
                  [value]="code()"
                  (input)="code.set($any($event.target).value)"
                  autocomplete="off" />
              </div>
            }
          } @else if (it.copies) {
            <p>This station gets the same rule of its own. The shared rule no longer applies here.</p>
          } @else {
            <p>No other station uses it. They will not see it any more.</p>
          }
          @if (refused(); as why) {
            <p class="error-text" role="alert">{{ why }}</p>
          }
          <div class="acts">
            @if (!it.refusal) {
              <button fButton="primary" type="submit" [disabled]="sending()">
                {{ it.scope === 'group' ? 'Make own' : 'Share' }}
              </button>
            }
            <button fButton="text" type="button" (click)="asking.set(false)">Cancel</button>
          </div>
        </form>
      }
    } @else if (problem(); as why) {
      <p class="error-text" role="alert">{{ why }}</p>
    }`,
  styleUrl: './sharing-panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SharingPanel {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  private readonly store = inject(Store);
  private readonly injector = inject(Injector);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly stations = this.store.selectSignal(catalogueFeature.selectStations);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectAllCategories);
  readonly stationId = input.required<string>();
  readonly kind = input.required<SharedKind>();
  readonly id = input.required<string>();
  readonly right = input.required<Right>();
  /** The thing is another one now: its id. */
  readonly became = output<string>();

  protected readonly sharing = signal<Sharing | null>(null);
  protected readonly problem = signal<string | null>(null);
  protected readonly asking = signal(false);
  protected readonly refused = signal<string | null>(null);
  protected readonly name = signal('');
  protected readonly code = signal('');
  /** With one station alone there is nobody to share with. */
  protected readonly several = computed(() => this.stations().length > 1);
  protected readonly lines = computed(() => {
    const sharing = this.sharing();
    return sharing ? stationLines(sharing, this.stationId()) : [];
  });
  protected readonly elsewhere = computed(
    () => (this.sharing()?.stations ?? []).filter(({ id }) => id !== this.stationId()).length,
  );
  /** One press is one change, however slow the answer. */
  protected readonly sending = signal(false);
  private asked = 0;

  constructor() {
    effect(() => {
      this.id();
      this.kind();
      this.several();
      untracked(() => {
        this.sharing.set(null);
        this.asking.set(false);
        void this.read();
      });
    });
    reloadOn(['catalogue', 'library', 'set-lists', 'stations'], () => this.read(), { burstMs: 300 });
  }

  private address(): { stationId: string; kind: SharedKind; id: string } {
    return { stationId: this.stationId(), kind: this.kind(), id: this.id() };
  }

  private async read(): Promise<void> {
    if (!this.several()) return;
    const asked = ++this.asked;
    try {
      const sharing = await this.api.sharing(this.address());
      if (asked !== this.asked) return;
      this.sharing.set(sharing);
      this.problem.set(null);
    } catch (error) {
      if (asked !== this.asked) return;
      this.sharing.set(null);
      this.problem.set(error instanceof Error ? error.message : String(error));
    }
  }

  protected begin({ name }: Sharing): void {
    const station = this.stations().find(({ id }) => id === this.stationId());
    this.name.set(ownName(name, station?.name ?? ''));
    const taken = this.categories().map(({ code }: CategoryRow) => code);
    const own = this.categories().find(({ id }: CategoryRow) => id === this.id());
    this.code.set(freeCode(own?.code ?? '', taken));
    this.refused.set(null);
    this.asking.set(true);
    // The button that was pressed is gone; keys go on where the question is.
    afterNextRender(() => this.host.querySelector<HTMLElement>('form input, form button')?.focus(), {
      injector: this.injector,
    });
  }

  protected stop(event: Event): void {
    event.stopPropagation();
    this.asking.set(false);
  }

  protected async makeOwn({ copies, kind }: Sharing): Promise<void> {
    const named = copies && kind !== 'rule';
    await this.send(
      this.api.makeOwn(this.address(), {
        ...(named ? { name: this.name() } : {}),
        ...(named && kind === 'category' ? { code: this.code() } : {}),
      }),
    );
  }

  protected share(): Promise<void> {
    return this.send(this.api.share(this.address()));
  }

  private async send(sending: Promise<{ activityId: string | null; label: string; id: string }>): Promise<void> {
    const before = this.id();
    this.sending.set(true);
    const answer = await this.changes.made(sending);
    this.sending.set(false);
    if (typeof answer === 'string') return this.refused.set(answer);
    this.asking.set(false);
    if (answer.id !== before) this.became.emit(answer.id);
    else await this.read();
  }
}

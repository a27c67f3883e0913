import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { ItemCard, ItemPatch } from '@fuller/contracts';
import { asWords, foldText, type Announced } from '@fuller/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { Api } from '../../shared/api/api';
import { Finder, type Found } from '../../shared/ui/finder';
import { catalogueFeature } from '../../state/catalogue.feature';
import { May } from '../../shared/session/may';

/** Something a tease can be tied to. */
type Offer = Announced & Found;

const MOST_SONGS = 6;

/** On the card of a tease what it announces; on any other the teases that announce it. */
@Component({
  selector: 'f-card-teases',
  imports: [May, ButtonDirective, Finder, RouterLink],
  template: `@let it = card();
    @if (it.kind === 'tease') {
      <div class="pair">
        <span class="label">Announces</span>
        <span>
          @if (it.announces; as announced) {
            @if (announced.what === 'song') {
              <a [routerLink]="['/', stationId(), 'library']" [queryParams]="{ item: announced.id }">{{
                announced.name
              }}</a>
            } @else {
              {{ announced.what }} {{ announced.name }}
            }
            @if (!announced.tied) {
              <span class="quiet">&ngsp;{{ byNames(announced.what) }}</span>
            }
          } @else {
            <span class="quiet">Nothing: no song has its title and artist.</span>
          }
          &ngsp;<button
            fMay="library"
            pButton
            [pButtonUnstyled]="true"
            type="button"
            class="link"
            [attr.aria-expanded]="choosing()"
            (click)="choosing.set(!choosing())">
            {{ choosing() ? 'Cancel' : it.announces?.tied ? 'Change' : 'Tie to' }}
          </button>
          @if (it.announces?.tied) {
            &ngsp;<button
              fMay="library"
              pButton
              [pButtonUnstyled]="true"
              type="button"
              class="link"
              (click)="tie(null)">
              Untie
            </button>
          }
        </span>
      </div>
      @if (choosing()) {
        <f-finder
          fieldId="tease-tie"
          label="Song, artist or show the tease announces"
          placeholder="Song, artist or show"
          [focused]="true"
          [find]="find"
          (chosen)="tie($event)" />
      }
    } @else if (it.teases.length) {
      <div class="pair">
        <span class="label">Teases</span>
        <span>
          @for (tease of it.teases; track tease.id; let last = $last) {
            <a [routerLink]="['/', stationId(), 'library']" [queryParams]="{ item: tease.id }">{{ tease.title }}</a>{{
              last ? '' : ', '
            }}
          }
        </span>
      </div>
    }`,
  styleUrl: './card.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CardTeases {
  private readonly api = inject(Api);
  private readonly shows = inject(Store).selectSignal(catalogueFeature.selectShows);
  readonly stationId = input.required<string>();
  readonly card = input.required<ItemCard>();
  readonly patch = output<Partial<ItemPatch>>();

  protected readonly choosing = signal(false);

  protected byNames(what: Announced['what']): string {
    return what === 'song' ? 'by title and artist' : 'by its name';
  }

  protected tie(one: Announced | null): void {
    this.choosing.set(false);
    this.patch.emit({ announces: one && { what: one.what, id: one.id } });
  }

  protected readonly find = async (query: string): Promise<Offer[]> => {
    const stationId = this.stationId();
    const words = foldText(query);
    const page = await this.api.items({ stationId, q: asWords(query), limit: MOST_SONGS }).catch(() => null);
    const songs = (page?.rows ?? []).filter(({ kind }) => kind !== 'tease');
    // The artists of what was found first are known by its card.
    const first = songs[0] ? await this.api.item({ stationId, id: songs[0].id }).catch(() => null) : null;
    const named = (name: string): boolean => foldText(name).includes(words);
    return [
      ...songs.map(({ id, title, artist, kind }): Offer => ({ what: 'song', id, text: title, hint: artist || kind })),
      ...(first?.credits ?? [])
        .filter(({ name }) => named(name))
        .map(({ artistId, name }): Offer => ({ what: 'artist', id: artistId, text: name, hint: 'artist' })),
      ...this.shows()
        .filter(({ name }) => named(name))
        .map(({ id, name }): Offer => ({ what: 'show', id, text: name, hint: 'show' })),
    ];
  };
}

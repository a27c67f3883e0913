import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import type { ItemCard, Station } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { Tab, TabList, TabPanel, TabPanels, Tabs } from 'primeng/tabs';
import { Api } from '../../shared/api/api';
import { Newest } from '../../shared/api/newest';
import { plural } from '../../shared/text/plural';
import { whenText } from '../../shared/text/when';
import { Inspector } from '../../shared/ui/inspector';
import { catalogueFeature } from '../../state/catalogue.feature';
import { CardFacts } from './card-facts';
import { CardFit } from './card-fit';
import { CardPlays } from './card-plays';
import { May } from '../../shared/session/may';

export const CARD_PARTS = ['facts', 'plays', 'fit'] as const;
export type CardPart = (typeof CARD_PARTS)[number];

/** The card of an item in three parts: its facts, its plays, and where it fits. */
@Component({
  selector: 'f-item-card',
  imports: [May, Inspector, Tabs, TabList, Tab, TabPanels, TabPanel, CardFacts, CardPlays, CardFit],
  template: `@if (card(); as card) {
      <f-inspector [about]="card.kind === 'song' ? 'Song' : card.kind" [title]="card.title">
        <div class="top">
          @if (card.artwork) {
            <img [src]="artworkUrl(card.id)" alt="" width="56" height="56" />
          }
          <p>{{ playWords() }}</p>
        </div>
        <p-tabs [value]="part()" (valueChange)="partChange.emit($any($event))">
          <p-tablist>
            <p-tab value="facts">Facts</p-tab>
            <p-tab value="plays">Plays</p-tab>
            <p-tab value="fit">Fit</p-tab>
          </p-tablist>
          <p-tabpanels>
            <p-tabpanel [value]="part()">
              @switch (part()) {
                @case ('facts') {
                  <f-card-facts
                    fMay="library"
                    fMayRead
                    [stationId]="stationId()"
                    [card]="card"
                    [families]="families()"
                    (place)="place.emit($event)"
                    (showArtist)="showArtist.emit($event)"
                    (refused)="load(stationId(), card.id)" />
                }
                @case ('plays') {
                  <f-card-plays [stationId]="stationId()" [card]="card" />
                }
                @case ('fit') {
                  <f-card-fit [stationId]="stationId()" [card]="card" />
                }
              }
            </p-tabpanel>
          </p-tabpanels>
        </p-tabs>
      </f-inspector>
    } @else if (failed()) {
      <f-inspector about="Item" title="This item cannot be shown"
        ><p class="error-text">{{ failed() }}</p></f-inspector
      >
    } @else {
      <f-inspector about="Item"
        ><p class="quiet">{{ itemId() ? 'Loading' : 'Choose an item to see its card.' }}</p></f-inspector
      >
    }`,
  styles: `
    :host {
      display: grid;
      min-height: 0;
    }
    .top {
      display: flex;
      gap: 10px;
      align-items: center;
      font-size: 14px;
    }
    img {
      border-radius: 3px;
      object-fit: cover;
      background: var(--chalk);
    }
    :host ::ng-deep {
      .p-tablist {
        margin: 8px 0 0;
      }
      .p-tab {
        padding: 6px 12px;
        font-size: 14px;
      }
      .p-tabpanels {
        padding: 12px 0 0;
        background: none;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ItemCardPanel {
  private readonly api = inject(Api);
  protected readonly artworkUrl = (id: string): string => this.api.urlOf('artwork', { id });
  private readonly station = inject(Store).selectSignal(catalogueFeature.selectStation);
  readonly stationId = input.required<string>();
  readonly itemId = input.required<string | null>();
  /** Changes when the library has changed, so that the card is read again. */
  readonly version = input(0);
  /** The tag families of the library. */
  readonly families = input<readonly string[]>([]);
  readonly part = input<CardPart>('facts');
  readonly partChange = output<CardPart>();
  readonly place = output<string>();
  readonly showArtist = output<{ id: string; name: string }>();

  protected readonly card = signal<ItemCard | null>(null);
  protected readonly failed = signal<string | null>(null);
  protected readonly playWords = computed(() => wordsOfPlays(this.card(), this.station()));

  constructor() {
    effect(() => {
      const [stationId, itemId] = [this.stationId(), this.itemId()];
      this.version();
      untracked(() => void this.load(stationId, itemId));
    });
  }

  private readonly newest = new Newest();

  protected async load(stationId: string, itemId: string | null): Promise<void> {
    const isNewest = this.newest.begin();
    if (this.card()?.id !== itemId) this.card.set(null);
    this.failed.set(null);
    if (itemId === null) return;
    try {
      const card = await this.api.item({ stationId, id: itemId });
      if (isNewest()) this.card.set(card);
    } catch (error) {
      if (isNewest()) this.failed.set(error instanceof Error ? error.message : String(error));
    }
  }
}

function wordsOfPlays(card: ItemCard | null, station: Station | null): string {
  if (!card || !station) return '';
  const when = (ms: number | null): string => whenText(ms, station.timeZone, station.today);
  const past = card.lastPlayedMs === null ? 'Has not played yet' : `Last played ${when(card.lastPlayedMs)}`;
  const next = card.nextPlayMs === null ? 'not in a log ahead' : `next ${when(card.nextPlayMs)}`;
  return `${past}, ${next}. ${plural(card.plays, 'play')} so far.`;
}

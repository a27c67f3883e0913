import { ChangeDetectionStrategy, Component, inject, output, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { asWords, foldText, parseDuration, type ClockLine } from '@fuller/core';
import { Store } from '@ngrx/store';
import { AutoComplete } from 'primeng/autocomplete';
import { Api } from '../shared/api/api';
import { LatestAnswer } from '../shared/latest-answer';
import { catalogueFeature } from '../state/catalogue.feature';
import { newLineId } from './clock-draft';
import { ClockNames } from './clock-names';

type NewLine = ClockLine extends infer Line ? (Line extends ClockLine ? Omit<Line, 'id'> : never) : never;
interface Offer {
  readonly text: string;
  readonly hint: string;
  readonly line: NewLine;
}

const DEFAULT_BREAK_MS = 120_000;
const MOST_ITEMS = 6;

/** Makes lines from a few typed letters: a category, `break 12:00`, `note …`, or the title of an item. */
@Component({
  selector: 'f-line-adder',
  imports: [AutoComplete, FormsModule],
  template: `<p-autocomplete
    #box
    [ngModel]="text()"
    (ngModelChange)="text.set($event)"
    [suggestions]="offers()"
    optionLabel="text"
    inputId="add-line"
    ariaLabel="Add a line"
    placeholder="Add a line: category, break 12:00…"
    [minQueryLength]="0"
    [autoHighlight]="true"
    [autoOptionFocus]="true"
    [delay]="60"
    appendTo="body"
    scrollHeight="380px"
    (completeMethod)="answers.ask($event.query)"
    (onSelect)="answers.pick($event.value)"
    (onInputKeydown)="answers.key($event)">
    <ng-template #item let-one
      ><span class="text">{{ one.text }}</span
      ><span class="quiet hint">{{ one.hint }}</span></ng-template
    >
    <ng-template #empty>Nothing found.</ng-template>
  </p-autocomplete>`,
  styles: `
    :host {
      display: block;
    }
    :host ::ng-deep .p-autocomplete,
    :host ::ng-deep .p-autocomplete-input {
      width: 100%;
      height: 32px;
      font-size: 14px;
    }
    .text {
      flex: 1;
    }
    .hint {
      font-size: 12px;
      margin-left: 16px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineAdder {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly clockNames = inject(ClockNames);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectSources);
  private readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);
  private readonly box = viewChild.required<AutoComplete>('box');
  readonly add = output<ClockLine>();
  protected readonly text = signal<string | Offer>('');
  protected readonly offers = signal<Offer[]>([]);
  protected readonly answers = new LatestAnswer<Offer>(
    (query) => this.find(query),
    (found) => this.offers.set(found),
    (offer) => this.choose(offer),
  );

  private async find(query: string): Promise<Offer[]> {
    const folded = foldText(query);
    const items = folded.length < 3 ? [] : await this.itemOffers(query);
    return [...this.categoryOffers(folded), ...this.wordOffers(query.trim()), ...items];
  }

  private async itemOffers(query: string): Promise<Offer[]> {
    const list = { q: asWords(query), category: null, artist: null, sort: 'title', dir: 'asc' as const };
    const page = await this.api.items(this.stationId()!, list, 0, MOST_ITEMS).catch(() => null);
    return (page?.rows ?? []).map((row) => {
      this.clockNames.remember(row.id, row.title, row.durationMs);
      return { text: row.title, hint: row.artist || row.kind, line: { kind: 'item', itemId: row.id, comment: '' } };
    });
  }

  private categoryOffers(folded: string): Offer[] {
    const rank = (code: string, name: string): number => {
      if (foldText(code) === folded) return 0;
      if (foldText(name).startsWith(folded)) return 1;
      return foldText(name).includes(folded) ? 2 : 3;
    };
    return this.categories()
      .map((category) => ({ category, rank: rank(category.code, category.name) }))
      .filter(({ rank: found }) => found < 3)
      .sort((a, b) => a.rank - b.rank)
      .map(({ category }) => ({
        text: category.name,
        hint: `${category.code}, ${category.items} items`,
        line: { kind: 'pick' as const, categoryId: category.id, comment: '' },
      }));
  }

  /** `break`, `break 12:00`, `note` and `note …`. */
  private wordOffers(query: string): Offer[] {
    const [word = '', ...rest] = query.split(/\s+/);
    const tail = rest.join(' ');
    const offers: Offer[] = [];
    if (word !== '' && 'break'.startsWith(word.toLowerCase())) {
      const bookedAtMs = Math.min(parseDuration(tail) ?? 0, 3_599_000);
      offers.push({
        text: tail ? `Break at ${tail}` : 'Break',
        hint: 'where spots play',
        line: { kind: 'break', bookedAtMs, durationMs: DEFAULT_BREAK_MS, comment: '' },
      });
    }
    if (word !== '' && 'note'.startsWith(word.toLowerCase())) {
      offers.push({
        text: tail ? `Note: ${tail}` : 'Note',
        hint: 'a remark, takes no time',
        line: { kind: 'note', text: tail || 'Note', comment: '' },
      });
    }
    return offers;
  }

  private choose(offer: Offer): void {
    this.text.set('');
    this.box().hide();
    this.add.emit({ ...offer.line, id: newLineId() } as ClockLine);
  }
}

import { ChangeDetectionStrategy, Component, inject, output, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { SetListItemInfo } from '@fuller/contracts';
import { asWords, foldText, type SetListRow } from '@fuller/core';
import { Store } from '@ngrx/store';
import { AutoComplete } from 'primeng/autocomplete';
import { Api } from '../../shared/api/api';
import { LatestAnswer } from '../../shared/latest-answer';
import { plural } from '../../shared/text/plural';
import { catalogueFeature } from '../../state/catalogue.feature';
import { newRowId } from './row-id';

interface Offer {
  readonly text: string;
  readonly hint: string;
  readonly row: SetListRow;
  readonly item: SetListItemInfo | null;
}

const MOST_ITEMS = 8;

/** Adds rows to a set list by a few typed letters: an item of the library, or a pick of a category or pool. */
@Component({
  selector: 'f-set-list-adder',
  imports: [AutoComplete, FormsModule],
  template: `<p-autocomplete
    #box
    [ngModel]="text()"
    (ngModelChange)="text.set($event)"
    [suggestions]="offers()"
    optionLabel="text"
    inputId="add-row"
    ariaLabel="Add a row"
    placeholder="Add: title, artist, category…"
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
      width: 260px;
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
      margin-left: 16px;
      font-size: 12px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SetListAdder {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly sources = this.store.selectSignal(catalogueFeature.selectSources);
  private readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);
  private readonly box = viewChild.required<AutoComplete>('box');
  readonly add = output<{ readonly row: SetListRow; readonly item: SetListItemInfo | null }>();
  protected readonly text = signal<string | Offer>('');
  protected readonly offers = signal<Offer[]>([]);
  protected readonly answers = new LatestAnswer<Offer>(
    (query) => this.find(query),
    (found) => this.offers.set(found),
    (offer) => this.choose(offer),
  );

  private async find(query: string): Promise<Offer[]> {
    const words = foldText(query);
    const picks = this.sources()
      .filter(({ name, code }) => foldText(name).includes(words) || foldText(code) === words)
      .map(({ id, name, items }): Offer => ({
        text: `Pick of ${name}`,
        hint: plural(items, 'item'),
        row: { id: '', categoryId: id },
        item: null,
      }));
    const page = await this.api
      .items({ stationId: this.stationId()!, q: asWords(query), limit: MOST_ITEMS })
      .catch(() => null);
    const items = (page?.rows ?? []).map(({ id, title, artist, kind, durationMs, hasFile }): Offer => ({
      text: title,
      hint: artist || kind,
      row: { id: '', itemId: id },
      item: { id, title, artist, kind, durationMs, hasFile },
    }));
    return [...items, ...picks];
  }

  private choose({ row, item }: Offer): void {
    this.text.set('');
    this.box().hide();
    this.add.emit({ row: { ...row, id: newRowId() }, item });
  }
}

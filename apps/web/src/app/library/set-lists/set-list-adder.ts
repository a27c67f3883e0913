import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import type { SetListItemInfo } from '@fuller/contracts';
import { asWords, foldText, type SetListRow } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Api } from '../../shared/api/api';
import { plural } from '../../shared/text/plural';
import { Finder, type Found } from '../../shared/ui/finder';
import { catalogueFeature } from '../../state/catalogue.feature';
import { newRowId } from './row-id';

interface Offer extends Found {
  readonly row: SetListRow;
  readonly item: SetListItemInfo | null;
}

const MOST_ITEMS = 8;

/** Adds rows to a set list by a few typed letters: an item of the library, or a pick of a category or pool. */
@Component({
  selector: 'f-set-list-adder',
  imports: [Finder],
  template: `<f-finder
    fieldId="add-row"
    label="Add a row"
    placeholder="Add: title, artist, category…"
    [find]="find"
    (chosen)="choose($event)" />`,
  styles: `
    :host {
      width: 260px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SetListAdder {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly sources = this.store.selectSignal(catalogueFeature.selectSources);
  private readonly stationId = this.store.selectSignal(catalogueFeature.selectStationId);
  readonly add = output<{ readonly row: SetListRow; readonly item: SetListItemInfo | null }>();

  protected readonly find = async (query: string): Promise<Offer[]> => {
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
  };

  protected choose({ row, item }: Offer): void {
    this.add.emit({ row: { ...row, id: newRowId() }, item });
  }
}

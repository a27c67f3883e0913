import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal, untracked } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { InputText } from 'primeng/inputtext';
import type { AliasPreview, ArtistView } from '@fuller/contracts';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { plural } from '../shared/text/plural';
import { Icon } from '../shared/ui/icon';
import { InlineEdit } from '../shared/ui/inline-edit';
import { Inspector } from '../shared/ui/inspector';
import { Changes } from '../state/changes';
import { May } from '../shared/session/may';

/** An artist as an identity: the name, other names, and songs that are by somebody else of that name. */
@Component({
  selector: 'f-artist-panel',
  imports: [May, SmallButton, InputText, Inspector, InlineEdit, Icon],
  template: `@if (artist(); as it) {
      <f-inspector right="library" about="Artist" [title]="it.name">
        <p class="lead">{{ songs(it.songs) }}, whatever their category.</p>
        <f-inline-edit label="Name" [value]="it.name" [check]="notEmpty" (changed)="rename($event)" />
        <h3 class="label head">Other names</h3>
        <ul>
          @for (alias of it.aliases; track alias.id) {
            <li>
              <span>{{ alias.name }}</span><button
                fMay="library"
                fButton="text"
                class="act"
                [attr.aria-label]="'Take the name ' + alias.name + ' away'"
                (click)="removeAlias(alias.id)">
                <f-icon name="close" [size]="14" />
              </button>
            </li>
          } @empty {
            <li class="quiet">Credited by no other name.</li>
          }
        </ul>
        <form fMay="library" (submit)="$event.preventDefault(); addAlias(other.value)">
          <input
            pInputText
            pSize="small"
            #other
            class="field"
            aria-label="Another name"
            placeholder="Another name"
            maxlength="200"
            (input)="preview.set(null)" />
          <button fButton type="submit" class="act">Add</button>
        </form>
        @if (preview(); as found) {
          <div class="ask" role="alertdialog" aria-label="Merge two artists">
            <p>
              {{ found.artist!.name }} is an artist with {{ songs(found.artist!.songs) }}. Merged, these print and count
              as {{ it.name }}, plays and all:
            </p>
            <ul class="rows">
              @for (row of found.rows; track $index) {
                <li>
                  <span>{{ row.title }}</span><span class="values"
                    ><s>{{ row.before }}</s
                    ><b>{{ row.after }}</b></span
                  >
                </li>
              }
            </ul>
            <button fMay="library" fButton="primary" class="act" (click)="merge(found.artist!.name)">Merge</button>
            <button fButton class="act" (click)="preview.set(null)">Leave them two</button>
          </div>
        }
        <h3 class="label head">Another artist of the same name</h3>
        @if (selected().length > 0) {
          <p>
            {{ songs(selected().length) }} selected; {{ songs(it.songs - selected().length) }} stay with {{ it.name }}.
          </p>
          <form fMay="library" (submit)="$event.preventDefault(); split(name.value)">
            <input
              pInputText
              pSize="small"
              #name
              class="field"
              aria-label="Name of the other artist"
              [placeholder]="it.name + ' (Cork)'"
              maxlength="200" />
            <button fButton type="submit" class="act">Split off</button>
          </form>
        } @else {
          <p class="quiet">
            Select the songs that are by the other one, then give that artist a name of its own. They go on printing
            what they print.
          </p>
        }
      </f-inspector>
    } @else if (failed()) {
      <f-inspector about="Artist" title="This artist cannot be shown"
        ><p class="error-text">{{ failed() }}</p></f-inspector
      >
    } @else {
      <f-inspector about="Artist"><p class="quiet">Loading</p></f-inspector>
    }`,
  styles: `
    :host {
      display: grid;
      min-height: 0;
      font-size: 14px;
    }
    .lead {
      margin-bottom: 8px;
    }
    .head {
      margin: 18px 0 6px;
    }
    ul {
      list-style: none;
      margin: 0 0 8px;
      padding: 0;
    }
    li {
      display: flex;
      justify-content: space-between;
      align-items: center;
      min-height: 28px;
    }
    form {
      display: flex;
      gap: 6px;
      margin-top: 6px;
    }
    .field {
      flex: 1;
    }
    .ask {
      margin-top: 10px;
      padding: 10px;
      background: var(--weld-wash);
      border-radius: 4px;
    }
    .rows {
      max-height: 260px;
      overflow: auto;
      margin: 8px 0;
    }
    .rows li {
      display: block;
      padding: 4px 0;
      border-top: 1px solid var(--line-strong);
    }
    .values {
      display: flex;
      flex-wrap: wrap;
      gap: 0 10px;
    }
    .ask .act {
      margin-right: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArtistPanel {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  readonly stationId = input.required<string>();
  readonly artistId = input.required<string>();
  /** Ids of the selected songs. */
  readonly selected = input<readonly string[]>([]);
  /** Changes when the library has changed. */
  readonly version = input(0);
  /** The artist has another name now. */
  readonly renamed = output<string>();

  protected readonly artist = signal<ArtistView | null>(null);
  protected readonly failed = signal<string | null>(null);
  /** What a merge would change, while it is asked about. */
  protected readonly preview = signal<AliasPreview | null>(null);
  protected readonly notEmpty = (text: string): string | null => (text === '' ? 'A name cannot be empty.' : null);

  constructor() {
    effect(() => {
      const id = this.artistId();
      this.version();
      untracked(() => void this.load(id));
    });
  }

  private readonly newest = new Newest();

  private async load(id: string): Promise<void> {
    const isNewest = this.newest.begin();
    if (this.artist()?.id !== id) this.artist.set(null);
    this.failed.set(null);
    try {
      const artist = await this.api.artist({ id });
      if (isNewest()) this.artist.set(artist);
    } catch (error) {
      if (isNewest()) this.failed.set(error instanceof Error ? error.message : String(error));
    }
  }

  protected async rename(name: string): Promise<void> {
    if (await this.changes.run(this.api.renameArtist({ stationId: this.stationId(), id: this.artistId() }, { name })))
      this.renamed.emit(name);
    else await this.load(this.artistId());
  }

  protected async addAlias(text: string): Promise<void> {
    const name = text.trim();
    if (name === '') return;
    const found = await this.api
      .previewAlias({ stationId: this.stationId(), id: this.artistId() }, { name })
      .catch((error: unknown) => this.changes.tell(error));
    if (found?.artist) this.preview.set(found);
    else if (found)
      await this.changes.run(
        this.api.addAlias({ stationId: this.stationId(), id: this.artistId() }, { name, merge: false }),
      );
  }

  protected async merge(name: string): Promise<void> {
    if (
      await this.changes.run(
        this.api.addAlias({ stationId: this.stationId(), id: this.artistId() }, { name, merge: true }),
      )
    )
      this.preview.set(null);
  }

  protected async removeAlias(aliasId: string): Promise<void> {
    await this.changes.run(this.api.removeAlias({ stationId: this.stationId(), id: this.artistId(), aliasId }));
  }

  protected async split(text: string): Promise<void> {
    const name = text.trim();
    if (name)
      await this.changes.run(
        this.api.splitArtist({ stationId: this.stationId(), id: this.artistId() }, { itemIds: this.selected(), name }),
      );
  }

  protected songs(count: number): string {
    return plural(count, 'song');
  }
}

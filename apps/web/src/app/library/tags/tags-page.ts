import { ChangeDetectionStrategy, Component, effect, inject, input, untracked } from '@angular/core';
import { SmallButton } from '../../shared/ui/small-button';
import { InputText } from 'primeng/inputtext';
import { RouterLink } from '@angular/router';
import { KeysHelp } from '../../frame/keys-help';
import { Icon } from '../../shared/ui/icon';
import { EmptyState } from '../../shared/ui/empty-state';
import { FamilyCard } from './family-card';
import { TagsStore } from './tags.store';
import { May } from '../../shared/session/may';

/** The tag families of the library: their names, their values in order, and how many items have each. */
@Component({
  selector: 'f-tags-page',
  imports: [May, SmallButton, InputText, FamilyCard, Icon, EmptyState, RouterLink],
  template: `<section class="page" aria-labelledby="tags-head">
    <header class="place-head">
      <a fButton="text" routerLink=".." aria-label="Back to the library"><f-icon name="back" [size]="18" /></a>
      <h1 id="tags-head">Tags</h1>
      <span class="quiet">What songs are described by: tempo, voice, mood, whatever the station needs.</span>
      <span class="gap"></span>
      <form fMay="library" (submit)="$event.preventDefault(); add(name)">
        <input
          pInputText
          pSize="small"
          #name
          aria-label="Name of a new family"
          placeholder="New family"
          maxlength="60" />
        <button fButton type="submit"><f-icon name="plus" />Add</button>
      </form>
    </header>
    <div class="scroll">
      @if (tags.failed(); as why) {
        <f-empty title="The tags cannot be read" [text]="why" />
      } @else if (tags.read(); as list) {
        <div class="cards">
          @for (family of list; track family.id) {
            <f-family-card [stationId]="stationId()" [family]="family" />
          } @empty {
            <f-empty
              title="No tags yet"
              text="Name a family above, such as tempo, and give it values; or write tags on a song’s card." />
          }
        </div>
      }
    </div>
  </section>`,
  styles: `
    .page {
      display: grid;
      grid-template-rows: auto minmax(0, 1fr);
      height: 100%;
    }
    .gap {
      flex: 1;
    }
    form {
      display: flex;
      gap: 6px;
    }
    .scroll {
      overflow: auto;
      padding: 16px;
    }
    .cards {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(360px, 1fr));
      gap: 16px;
      align-items: start;
    }
  `,
  providers: [TagsStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TagsPage {
  protected readonly tags = inject(TagsStore);
  readonly stationId = input.required<string>();

  constructor() {
    inject(KeysHelp).place.set({
      name: 'Tags',
      keys: [
        { keys: ['Enter'], does: 'save what is typed' },
        { keys: ['Esc'], does: 'cancel' },
      ],
    });
    effect(() => {
      const stationId = this.stationId();
      untracked(() => void this.tags.load(stationId));
    });
  }

  protected async add(field: HTMLInputElement): Promise<void> {
    const name = field.value.trim();
    if (name && (await this.tags.create(name))) field.value = '';
  }
}

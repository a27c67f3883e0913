import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { Dialog } from 'primeng/dialog';
import { KeysHelp } from './keys-help';

@Component({
  selector: 'f-keys-panel',
  imports: [Dialog],
  template: `<p-dialog
    header="Keys"
    [visible]="help.open()"
    (visibleChange)="help.open.set($event)"
    [modal]="true"
    [dismissableMask]="true"
    [draggable]="false"
    [style]="{ width: '480px' }">
    @for (group of groups(); track group.name) {
      <h3 class="label">{{ group.name }}</h3>
      <dl>
        @for (line of group.keys; track line.does) {
          <dt>
            @for (key of line.keys; track $index) {
              <span class="kbd">{{ key }}</span>
            }
          </dt>
          <dd>{{ line.does }}</dd>
        }
      </dl>
    }
  </p-dialog>`,
  styles: `
    dl {
      display: grid;
      grid-template-columns: 140px 1fr;
      gap: 8px 12px;
      margin: 6px 0 18px;
    }
    dt {
      display: flex;
      gap: 4px;
    }
    dd {
      margin: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeysPanel {
  protected readonly help = inject(KeysHelp);

  protected groups(): { name: string; keys: KeysHelp['everywhere'] }[] {
    const place = this.help.place();
    const everywhere = { name: 'Everywhere', keys: this.help.everywhere };
    return place.keys.length ? [{ name: place.name, keys: place.keys }, everywhere] : [everywhere];
  }
}

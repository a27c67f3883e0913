import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Right } from '@fuller/contracts';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { Drawer } from './drawer';
import { catalogueFeature } from '../../state/catalogue.feature';
import { Session } from '../session/session.store';
import { Icon } from './icon';

const NARROW = '(max-width: 900px)';

/** The right-hand part of a place: it always speaks about what is selected. In a narrow window it is a drawer. */
@Component({
  selector: 'f-inspector',
  imports: [ButtonDirective, Icon],
  template: `<button
      pButton
      [pButtonUnstyled]="true"
      type="button"
      class="opener"
      (click)="drawer.open.set(true)"
      [attr.aria-label]="'Open the inspector: ' + about()">
      <f-icon name="back" [size]="16" />{{ about() }}
    </button>
    <header>
      <div>
        <span class="label">{{ about() }}</span>
        <h2>{{ title() }}</h2>
      </div>
      <button
        pButton
        size="small"
        text
        severity="secondary"
        type="button"
        class="closer"
        (click)="drawer.open.set(false)"
        aria-label="Close the inspector"
        title="Close (Escape)">
        <f-icon name="close" [size]="18" />
      </button>
    </header>
    <div class="scroll body">
      <div class="inner" [attr.inert]="reads() ? '' : null"><ng-content /></div>
    </div>`,
  styles: `
    :host {
      display: grid;
      grid-template-rows: auto minmax(0, 1fr);
      width: 340px;
      border-left: 1px solid var(--line);
      background: var(--paper);
      min-height: 0;
    }
    header {
      display: flex;
      justify-content: space-between;
      align-items: start;
      padding: 12px 16px 10px;
      border-bottom: 1px solid var(--line);
      min-height: 52px;
    }
    h2 {
      overflow-wrap: anywhere;
      display: -webkit-box;
      -webkit-line-clamp: 3;
      -webkit-box-orient: vertical;
      overflow: hidden;
    }
    .body {
      padding: 12px 16px 20px;
    }
    .inner {
      display: contents;
    }
    .opener,
    .closer {
      display: none;
    }
    @media (max-width: 900px) {
      :host {
        position: fixed;
        right: 0;
        bottom: 0;
        top: 60px;
        z-index: 20;
        max-width: 92vw;
        box-shadow: var(--shade);
      }
      .closer {
        display: inline-flex;
      }
      :host(.shut) {
        top: auto;
        bottom: 16px;
        width: auto;
        border: 0;
        background: none;
        box-shadow: none;
      }
      :host(.shut) > header,
      :host(.shut) > .body {
        display: none;
      }
      :host(.shut) .opener {
        display: inline-flex;
        align-items: center;
        gap: 6px;
        padding: 8px 12px;
        border: 1px solid var(--line-strong);
        border-right: 0;
        border-radius: 6px 0 0 6px;
        background: var(--paper);
        color: var(--ink);
        font-size: 13px;
        box-shadow: var(--shade);
        cursor: pointer;
      }
    }
  `,
  host: {
    role: 'complementary',
    '[attr.aria-label]': "'Inspector: ' + about()",
    '[class.shut]': '!drawer.open()',
    '(document:keydown.escape)': 'onEscape($event)',
  },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Inspector {
  protected readonly drawer = inject(Drawer);
  readonly about = input.required<string>();
  readonly title = input('');
  /** What must be allowed to change what is in it; whoever may not reads it. */
  readonly right = input<Right>('look');
  private readonly session = inject(Session);
  private readonly stationId = inject(Store).selectSignal(catalogueFeature.selectStationId);
  protected readonly reads = computed(() => !this.session.may(this.right(), this.stationId()));

  protected onEscape(event: Event): void {
    const typing = event.target instanceof HTMLElement && /^(?:input|textarea|select)$/i.test(event.target.tagName);
    if (!typing && !event.defaultPrevented && globalThis.matchMedia?.(NARROW).matches) this.drawer.open.set(false);
  }
}

import { ChangeDetectionStrategy, Component, input } from '@angular/core';

/** The right-hand part of a place: it always speaks about what is selected. */
@Component({
  selector: 'f-inspector',
  template: `<header>
      <span class="label">{{ about() }}</span>
      <h2>{{ title() }}</h2>
    </header>
    <div class="scroll"><ng-content /></div>`,
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
    div {
      padding: 12px 16px 20px;
    }
    @media (max-width: 900px) {
      :host {
        position: fixed;
        right: 0;
        bottom: 0;
        top: 60px;
        z-index: 20;
        box-shadow: var(--shade);
      }
    }
  `,
  host: { role: 'complementary', '[attr.aria-label]': "'Inspector: ' + about()" },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Inspector {
  readonly about = input.required<string>();
  readonly title = input('');
}

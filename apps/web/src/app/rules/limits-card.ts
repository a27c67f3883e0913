import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { SmallButton } from '../shared/ui/small-button';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { HEADROOM_STATES, isLimitRule, type Headroom } from '@fuller/core';
import { ButtonDirective } from 'primeng/button';
import { Checkbox } from 'primeng/checkbox';
import { HeadroomScale } from './headroom-scale';
import { RulesStore } from './rules.store';
import { May } from '../shared/session/may';

/** The statutory limits among the musts. */
@Component({
  selector: 'f-limits-card',
  imports: [May, SmallButton, ButtonDirective, Checkbox, FormsModule, HeadroomScale, RouterLink],
  template: `<p><strong>Statutory limits for web radio</strong></p>
    <p class="quiet">
      In any 3 hours {{ limits().strict ? '2 of an album, 3 of an artist' : '3 of an album, 4 of an artist' }}
    </p>
    <label>
      <p-checkbox
        fMay="rules"
        fMayRead
        [binary]="true"
        [ngModel]="limits().strict"
        (ngModelChange)="board.applyLimits({ strict: $event })"
        size="small"
        ariaLabel="Stricter variant" />
      Stricter
    </label>
    @if (tightest(); as headroom) {
      <f-headroom-scale [headroom]="headroom" />
    }
    <div class="row">
      <a pButton size="small" text [routerLink]="['/', stationId(), 'rules', 'limits']">Check</a>
      <button fMay="rules" fButton="text" (click)="board.applyLimits({ applies: false })">Stop</button>
    </div>`,
  styles: `
    :host {
      display: block;
      padding: 8px 10px 4px;
      border: 1px solid var(--line);
      border-left: 4px solid var(--madder);
      border-radius: 4px;
      background: var(--paper);
      font-size: 14px;
    }
    label {
      display: flex;
      gap: 6px;
      align-items: center;
      margin-top: 4px;
    }
    .row {
      display: flex;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LimitsCard {
  protected readonly board = inject(RulesStore);
  protected readonly limits = this.board.limits;
  readonly stationId = input.required<string>();
  /** Of the limits the one with the least room. */
  protected readonly tightest = computed(() => {
    const weighed = Object.entries(this.board.weighed()).flatMap(([id, { headroom }]) =>
      isLimitRule(id) ? [headroom] : [],
    );
    const rank = (one: Headroom): number => HEADROOM_STATES.indexOf(one.state);
    return weighed.length === 0 ? null : weighed.reduce((a, b) => (rank(b) > rank(a) ? b : a));
  });
}

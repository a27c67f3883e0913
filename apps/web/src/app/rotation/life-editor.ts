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
import { FormsModule } from '@angular/forms';
import type { CategoryRow } from '@fuller/contracts';
import type { Life } from '@fuller/core';
import { Store } from '@ngrx/store';
import { InputNumber } from 'primeng/inputnumber';
import { May } from '../shared/session/may';
import { Choice } from '../shared/ui/choice';
import { SmallButton } from '../shared/ui/small-button';
import { catalogueFeature } from '../state/catalogue.feature';
import { lifeWords } from './move-words';

const OUT = 'out';

/** How long songs stay in a category, and where they go then. */
@Component({
  selector: 'f-life-editor',
  imports: [Choice, FormsModule, InputNumber, May, SmallButton],
  template: `@if (category().life && !editing()) {
      <p>
        {{ words() }}
        <button fMay="rotation" fButton="text" (click)="editing.set(true)">Change</button>
        <button fMay="rotation" fButton="text" (click)="changed.emit(null)">None</button>
      </p>
    } @else if (editing()) {
      <form (submit)="$event.preventDefault(); save()">
        <span class="row"
          >after
          <p-inputnumber
            [ngModelOptions]="{ standalone: true }"
            inputId="life-after"
            ariaLabel="How long"
            [ngModel]="after()"
            (ngModelChange)="after.set($event)"
            [min]="1"
            [max]="1000"
            size="small" />
          <f-choice label="Weeks or plays" [options]="units" [value]="unit()" (chosen)="unit.set($any($event))"
        /></span>
        <span class="row"
          >to <f-choice label="Where songs go" [options]="targets()" [value]="to()" (chosen)="to.set($event)"
        /></span>
        <span class="row">
          <button fButton="primary" type="submit" [disabled]="!after()">Save</button>
          <button fButton (click)="editing.set(false)">Cancel</button>
        </span>
      </form>
    } @else {
      <p>
        Not set: songs stay until somebody moves them.
        <button fMay="rotation" fButton="text" (click)="editing.set(true)">Limit their stay</button>
      </p>
    }`,
  styles: `
    p {
      margin: 4px 0;
    }
    form {
      display: grid;
      gap: 8px;
    }
    .row {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    f-choice {
      flex: 1;
    }
    :host ::ng-deep p-inputnumber input {
      width: 64px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LifeEditor {
  private readonly categories = inject(Store).selectSignal(catalogueFeature.selectAllCategories);
  readonly category = input.required<CategoryRow>();
  readonly changed = output<Life | null>();
  protected readonly editing = signal(false);
  protected readonly after = signal<number | null>(4);
  protected readonly unit = signal<Life['unit']>('weeks');
  protected readonly to = signal(OUT);
  protected readonly units = [
    { value: 'weeks', label: 'weeks' },
    { value: 'plays', label: 'plays' },
  ];
  protected readonly targets = computed(() => [
    ...this.categories()
      .filter(({ id, music }) => music && id !== this.category().id)
      .map(({ id, name }) => ({ value: id, label: name })),
    { value: OUT, label: 'out of rotation' },
  ]);
  protected readonly words = computed(() => {
    const { life } = this.category();
    return life
      ? lifeWords(life, (id) => this.categories().find((one) => one.id === id)?.name ?? 'a deleted category')
      : '';
  });

  constructor() {
    effect(() => {
      const { life } = this.category();
      untracked(() => {
        this.editing.set(false);
        this.after.set(life?.after ?? 4);
        this.unit.set(life?.unit ?? 'weeks');
        this.to.set(life ? (life.to ?? OUT) : (this.targets()[0]?.value ?? OUT));
      });
    });
  }

  protected save(): void {
    const after = this.after();
    if (!after) return;
    this.editing.set(false);
    this.changed.emit({ after, unit: this.unit(), to: this.to() === OUT ? null : this.to() });
  }
}

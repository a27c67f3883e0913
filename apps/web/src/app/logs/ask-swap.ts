import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { DailyLog } from '@fuller/core';
import { placeOf } from '@fuller/core';
import { InputText } from 'primeng/inputtext';
import { Session } from '../shared/session/session.store';
import { swapNote } from './swap-words';
import { SmallButton } from '../shared/ui/small-button';
import type { EntryRow } from './log-model';

/** A presenter changes no song of a log; within their shows they ask whoever made it for another. */
@Component({
  selector: 'f-ask-swap',
  imports: [InputText, SmallButton],
  template: `@if (asks()) {
    <form (submit)="$event.preventDefault(); ask.emit(words(why.value)); why.value = ''">
      <label class="label" for="ask-swap">Ask for a swap</label>
      <input pInputText pSize="small" #why id="ask-swap" placeholder="Why" maxlength="200" autocomplete="off" />
      <button fButton type="submit">Ask</button>
    </form>
  }`,
  styles: `
    form {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 4px 8px;
      margin: 10px 0;
    }
    label {
      grid-column: 1 / -1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AskSwap {
  private readonly session = inject(Session);
  readonly row = input.required<EntryRow>();
  readonly log = input.required<DailyLog>();
  readonly stationId = input.required<string>();
  /** The note that asks. */
  readonly ask = output<string>();

  protected readonly asks = computed(() => {
    const [stationId, { entry }] = [this.stationId(), this.row()];
    if (entry.kind !== 'pick' || this.session.may('logs', stationId)) return false;
    const place = placeOf(this.log(), entry.id);
    const showId = place && this.log().hours[place.hourIndex]?.showId;
    return typeof showId === 'string' && this.session.showsAt(stationId).includes(showId);
  });
  protected readonly words = swapNote;
}

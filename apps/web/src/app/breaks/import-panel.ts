import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { formatDuration } from '@fuller/core';
import { InputText } from 'primeng/inputtext';
import { Choice } from '../shared/ui/choice';
import { SmallButton } from '../shared/ui/small-button';
import { BreaksStore } from './breaks.store';
import { ImportTrafficStore } from './import-traffic.store';
import { LayoutForm } from './layout-form';

const PROPOSED = 'proposed';

/** What would become of a traffic log, and the layout it is read by. */
@Component({
  selector: 'f-import-panel',
  imports: [Choice, InputText, LayoutForm, SmallButton],
  template: `@if (incoming.problem(); as why) {
      <p class="error-text" role="alert">{{ why }}</p>
    }
    @if (incoming.outcome(); as outcome) {
      <div role="status">
        <dl>
          <dt>Placed</dt>
          <dd class="mono">{{ outcome.placed }}</dd>
          <dt>New</dt>
          <dd class="mono">{{ outcome.added }}</dd>
          <dt>Gone</dt>
          <dd class="mono">{{ outcome.removed }}</dd>
          <dt>In the tray</dt>
          <dd class="mono">{{ outcome.tray.length }}</dd>
          <dt>Errors</dt>
          <dd class="mono" [class.error-text]="outcome.errors.length">{{ outcome.errors.length }}</dd>
          <dt>Lines without a spot</dt>
          <dd class="mono">{{ outcome.passed }}</dd>
        </dl>
      </div>
      @if (marked().length) {
        <h3>To look at</h3>
        <ul>
          @for (one of marked(); track one.entryId) {
            <li>
              <span class="mono">{{ one.start.slice(0, 5) }}</span> {{ one.marks.join('. ') }}
            </li>
          }
        </ul>
      }
      @if (longer().length) {
        <h3>Longer than planned</h3>
        <ul>
          @for (one of longer(); track one.entryId) {
            <li>
              <span class="mono">{{ one.start.slice(0, 5) }}</span> {{ length(one.bookedMs) }} booked,
              {{ length(one.plannedMs) }} planned
            </li>
          }
        </ul>
      }
      @if (outcome.tray.length) {
        <h3>In the tray</h3>
        <ul>
          @for (row of outcome.tray; track row.id) {
            <li>
              <span class="mono">{{ row.line }}</span> {{ row.sponsor || row.cart }}: {{ row.why }}
            </li>
          }
        </ul>
      }
      @if (outcome.errors.length) {
        <h3>Errors</h3>
        <ul>
          @for (error of outcome.errors; track error.line) {
            <li>
              <span class="mono">{{ error.line }}</span> {{ error.why }}
            </li>
          }
        </ul>
      }
    }
    <h3>Layout</h3>
    <div class="keep">
      <f-choice
        label="Layout"
        [options]="layouts()"
        [value]="chosen()"
        placeholder="Changed"
        (chosen)="choose($event)" />
      <button fButton (click)="download()">Download</button>
    </div>
    @if (unread()) {
      <p class="error-text" role="alert">The file proposes no layout: point out its time and its length.</p>
    }
    <f-layout-form
      [layout]="incoming.layout()"
      (changed)="incoming.setLayout($event)"
      (encoded)="incoming.setEncoding($event)" />
    <div class="keep save">
      <input
        pInputText
        pSize="small"
        #name
        [value]="incoming.layout().name"
        aria-label="Name of the layout"
        [attr.aria-invalid]="refused() ? true : null" />
      <button fButton (click)="keep(name.value)">Save layout</button>
    </div>
    @if (refused(); as why) {
      <p class="error-text" role="alert">{{ why }}</p>
    }
    <label class="file quiet"
      >Open a layout file<input #shared type="file" accept=".json,application/json" (change)="openLayout(shared)"
    /></label>`,
  styles: `
    dl {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 2px 12px;
      margin: 0;
      font-size: 14px;
    }
    dd {
      margin: 0;
      text-align: right;
      font-weight: 600;
    }
    h3 {
      margin: 16px 0 6px;
      font-size: 14px;
    }
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
      font-size: 13px;
      max-height: 180px;
      overflow: auto;
    }
    li {
      padding: 3px 0;
      border-top: 1px solid var(--line);
      overflow-wrap: anywhere;
    }
    .keep {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 6px;
      margin-bottom: 10px;
    }
    .save {
      margin: 14px 0 0;
    }
    f-choice,
    .keep input {
      width: 100%;
    }
    .file {
      display: block;
      margin-top: 12px;
      font-size: 13px;
    }
    .file input {
      display: block;
      margin-top: 4px;
      max-width: 100%;
      font-size: 13px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ImportPanel {
  protected readonly incoming = inject(ImportTrafficStore);
  private readonly breaks = inject(BreaksStore);
  protected readonly length = formatDuration;
  protected readonly refused = signal<string | null>(null);
  protected readonly unread = signal(false);

  protected readonly marked = computed(() =>
    (this.incoming.outcome()?.breaks ?? []).filter(({ marks }) => marks.length),
  );
  protected readonly longer = computed(() =>
    (this.incoming.outcome()?.breaks ?? []).filter(({ bookedMs, plannedMs }) => bookedMs > plannedMs),
  );
  private readonly kept = computed(() => this.breaks.setUp()?.layouts ?? []);
  protected readonly layouts = computed(() => [
    { value: PROPOSED, label: 'Propose from the file' },
    ...this.kept().map(({ id, name }) => ({ value: id, label: name })),
  ]);
  protected readonly chosen = computed(() => {
    const shown = JSON.stringify(this.incoming.layout());
    return this.kept().find(({ layout }) => JSON.stringify(layout) === shown)?.id ?? null;
  });

  protected choose(id: string): void {
    const kept = this.kept().find((layout) => layout.id === id);
    if (kept) this.incoming.setLayout(kept.layout);
    this.unread.set(!kept && !this.incoming.propose());
  }

  /** Under the name of a layout that is kept, that one is changed. */
  protected async keep(text: string): Promise<void> {
    const name = text.trim();
    const same = this.kept().find((layout) => layout.name.toLowerCase() === name.toLowerCase());
    const id = same?.id ?? `layout-${Date.now().toString(36)}`;
    this.refused.set(await this.incoming.keep(id, name, same?.revision ?? 0));
    await this.breaks.loadSetUp();
  }

  protected download(): void {
    const layout = this.incoming.layout();
    const url = URL.createObjectURL(new Blob([JSON.stringify(layout, null, 2)], { type: 'application/json' }));
    const link = document.createElement('a');
    link.href = url;
    link.download = `${layout.name.replace(/[/\\:*?"<>|]/g, '-')}.json`;
    link.click();
    URL.revokeObjectURL(url);
  }

  protected async openLayout(field: HTMLInputElement): Promise<void> {
    const [file] = field.files ?? [];
    field.value = '';
    if (file) this.refused.set(await this.incoming.openLayout(file));
  }
}

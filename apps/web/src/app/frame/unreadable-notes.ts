import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import type { UnreadableNote } from '@fuller/contracts';
import { Message } from 'primeng/message';
import { Api } from '../shared/api/api';
import { Changes } from '../state/changes';

/** What could not be read when Fuller was started, until somebody has read about it. */
@Component({
  selector: 'f-unreadable-notes',
  imports: [Message],
  template: `@for (note of notes(); track note.id) {
    <p-message severity="warn" [closable]="true" (onClose)="dismiss(note.id)">{{ note.text }}</p-message>
  }`,
  styles: `
    :host {
      display: grid;
      gap: 4px;
      max-height: 148px;
      padding: 6px 16px;
      overflow: auto;
    }
    :host:not(:has(p-message)) {
      display: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class UnreadableNotes {
  private readonly api = inject(Api);
  private readonly changes = inject(Changes);
  protected readonly notes = signal<readonly UnreadableNote[]>([]);

  constructor() {
    void this.load();
  }

  private async load(): Promise<void> {
    this.notes.set(await this.api.unreadable().catch(() => []));
  }

  protected async dismiss(id: string): Promise<void> {
    await this.changes.run(this.api.dismissUnreadable({ id }));
    await this.load();
  }
}

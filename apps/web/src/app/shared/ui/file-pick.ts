import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** What a person can choose: a table or playlist, audio files, or a folder of audio. */
const KINDS = {
  table: '.csv,.tsv,.txt,.json,.m3u,.m3u8,.pls,.xspf,text/csv,text/plain',
  audio: 'audio/*,.flac,.opus,.aif,.aiff',
  folder: '',
} as const;

/** Chooses files of this computer. Its own, since PrimeNG’s upload cannot choose a folder. */
@Component({
  selector: 'f-file-pick',
  template: `<label [class.primary]="primary()"
    >{{ label()
    }}<input
      #field
      type="file"
      [multiple]="kind() !== 'table'"
      [attr.webkitdirectory]="kind() === 'folder' ? '' : null"
      [attr.accept]="kinds[kind()] || null"
      [disabled]="disabled()"
      (change)="picked.emit(field.files)"
  /></label>`,
  styles: `
    :host {
      display: flex;
    }
    label {
      position: relative;
      display: inline-block;
      padding: 6px 12px;
      overflow: hidden;
      border: 1px solid var(--line-strong);
      border-radius: 4px;
      font-size: 14px;
      cursor: pointer;
    }
    .primary {
      border-color: var(--woad);
      background: var(--woad);
      color: var(--on-woad);
    }
    label:focus-within {
      outline: 2px solid var(--woad);
      outline-offset: 2px;
    }
    input {
      position: absolute;
      inset: 0;
      opacity: 0;
      cursor: pointer;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FilePick {
  readonly label = input.required<string>();
  readonly kind = input.required<keyof typeof KINDS>();
  /** What the place is about. */
  readonly primary = input(false);
  readonly disabled = input(false);
  readonly picked = output<FileList | null>();
  protected readonly kinds = KINDS;
}

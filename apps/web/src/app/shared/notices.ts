import { inject, Injectable } from '@angular/core';
import { MessageService } from 'primeng/api';

/** Short notices at the foot of the screen. */
@Injectable({ providedIn: 'root' })
export class Notices {
  private readonly messages = inject(MessageService);

  say(text: string): void {
    this.messages.add({ severity: 'secondary', summary: text, life: 2500 });
  }

  fail(text: string): void {
    this.messages.add({ severity: 'error', summary: text, life: 8000 });
  }
}

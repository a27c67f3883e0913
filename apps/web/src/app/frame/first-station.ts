import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Router } from '@angular/router';
import { Api } from '../shared/api/api';
import { EmptyState } from '../shared/ui/empty-state';

/** Leads from the bare address to the first station. */
@Component({
  selector: 'f-first-station',
  imports: [EmptyState],
  template: `@if (message()) {
    <f-empty title="Fuller cannot begin" [text]="message()" />
  }`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FirstStation {
  protected readonly message = signal('');

  private readonly api = inject(Api);

  /** Whether a station has neither songs nor clocks: it begins with its own songs then. */
  private async isEmpty(stationId: string): Promise<boolean> {
    const { items, clocks } = await this.api.catalogue({ stationId });
    return items === 0 && clocks.length === 0;
  }

  constructor() {
    const router = inject(Router);
    this.api
      .stations()
      .then(async (stations) => {
        const first = stations.find(({ archived }) => !archived);
        if (first)
          await router.navigate(['/', first.id, (await this.isEmpty(first.id)) ? 'begin' : 'library'], {
            replaceUrl: true,
          });
        else this.message.set('There is no station yet.');
      })
      .catch((error: Error) => this.message.set(error.message));
  }
}

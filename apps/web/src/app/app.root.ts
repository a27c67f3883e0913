import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterOutlet } from '@angular/router';
import { Toast } from 'primeng/toast';

@Component({
  selector: 'f-root',
  imports: [RouterOutlet, Toast],
  template: `<router-outlet /><p-toast position="bottom-right" />`,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AppRoot {}

import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { SmallButton } from '../../shared/ui/small-button';
import type { ItemCard, ItemPatch } from '@fuller/contracts';
import { elementAt, formatDuration } from '@fuller/core';
import WaveSurfer from 'wavesurfer.js';
import RegionsPlugin from 'wavesurfer.js/plugins/regions';
import { Looks } from '../../shared/looks';
import { Api } from '../../shared/api/api';
import { Icon } from '../../shared/ui/icon';
import { May } from '../../shared/session/may';

type Point = 'introMs' | 'outroMs' | 'segueMs';
const POINTS: readonly {
  readonly point: Point;
  readonly name: string;
  readonly token: string;
  readonly fromEnd: boolean;
}[] = [
  { point: 'introMs', name: 'intro', token: '--moss', fromEnd: false },
  { point: 'outroMs', name: 'outro', token: '--weld', fromEnd: true },
  { point: 'segueMs', name: 'segue', token: '--madder', fromEnd: true },
];
/** One press of an arrow key, seconds. */
const STEP = 1;
const FINE_STEP = 0.1;

/** The sound of an item as a waveform: listen from any point, and set where the intro ends and outro and segue begin. */
@Component({
  selector: 'f-card-sound',
  imports: [May, SmallButton, Icon],
  template: `<div
      #wave
      class="wave"
      role="slider"
      tabindex="0"
      [attr.aria-label]="'Position in ' + card().title"
      aria-valuemin="0"
      [attr.aria-valuemax]="card().durationMs / 1000"
      [attr.aria-valuenow]="seconds()"
      [attr.aria-valuetext]="clock()"
      (keydown)="onKey($event)"></div>
    @if (failed()) {
      <p class="error-text">This audio cannot be played here: {{ failed() }}</p>
    }
    <div class="row">
      <button
        fButton
        class="act"
        (click)="turn()"
        [attr.aria-label]="playing() ? 'Pause' : 'Play'"
        [disabled]="!ready()">
        <f-icon [name]="playing() ? 'pause' : 'play'" />
      </button>
      <span class="mono at">{{ clock() }}</span>
      @for (one of points_; track one.point) {
        <button
          fMay="library"
          fButton
          class="act point"
          [disabled]="!ready()"
          [style.--mark]="'var(' + one.token + ')'"
          [title]="'Set the ' + one.name + (one.fromEnd ? ' to begin here' : ' to end here')"
          (click)="set(one.point, seconds())">
          {{ one.name }}
        </button>
      }
    </div>`,
  styles: `
    :host {
      display: block;
      margin-bottom: 10px;
    }
    .wave {
      min-height: 64px;
      background: var(--chalk);
      border: 1px solid var(--line);
      border-radius: 3px;
      cursor: text;
    }
    .row {
      display: flex;
      align-items: center;
      gap: 6px;
      margin-top: 6px;
    }
    .act {
      height: 28px;
      padding: 0 9px;
      font-size: 13px;
    }
    .point {
      border-bottom: 3px solid var(--mark);
    }
    .at {
      flex: 1;
      font-size: 13px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CardSound {
  private readonly api = inject(Api);
  private readonly looks = inject(Looks);
  readonly card = input.required<ItemCard>();
  readonly points = output<Partial<ItemPatch>>();

  protected readonly points_ = POINTS;
  private readonly wave = viewChild.required<ElementRef<HTMLElement>>('wave');
  private player: WaveSurfer | null = null;
  private readonly regions = RegionsPlugin.create();
  protected readonly ready = signal(false);
  protected readonly playing = signal(false);
  protected readonly seconds = signal(0);
  protected readonly failed = signal<string | null>(null);

  constructor() {
    effect(() => {
      // The same item read anew keeps its sound where it is; another theme draws it in other colours.
      const key = `${this.card().id} ${this.looks.theme()}`;
      untracked(() => this.open(key));
    });
    inject(DestroyRef).onDestroy(() => this.player?.destroy());
    effect(() => {
      const card = this.card();
      if (this.ready()) untracked(() => this.mark(card));
    });
  }

  private opened = '';

  private open(key: string): void {
    if (key === this.opened) return;
    this.opened = key;
    this.player?.destroy();
    this.ready.set(false);
    this.playing.set(false);
    this.seconds.set(0);
    this.failed.set(null);
    const colours = getComputedStyle(document.documentElement);
    this.player = WaveSurfer.create({
      container: this.wave().nativeElement,
      url: this.api.urlOf('audio', { id: this.card().id }),
      height: 62,
      normalize: true,
      waveColor: colours.getPropertyValue('--line-strong'),
      progressColor: colours.getPropertyValue('--woad'),
      cursorColor: colours.getPropertyValue('--ink'),
      plugins: [this.regions],
    });
    this.player.on('ready', () => this.ready.set(true));
    this.player.on('play', () => this.playing.set(true));
    this.player.on('pause', () => this.playing.set(false));
    // At rest the place is what was last asked for: the player tells where it was a moment ago.
    this.player.on('timeupdate', (at) => {
      if (this.playing()) this.seconds.set(at);
    });
    this.player.on('interaction', (at) => this.seconds.set(at));
    this.player.on('error', (error) => this.failed.set(error.message));
    this.regions.on('region-updated', (region) => this.set(region.id as Point, region.start));
  }

  /** Draws the points of a card. */
  private mark(card: ItemCard): void {
    const length = this.player!.getDuration();
    const colours = getComputedStyle(document.documentElement);
    this.regions.clearRegions();
    for (const { point, name, token, fromEnd } of POINTS) {
      const value = card[point];
      if (value === null) continue;
      const start = fromEnd ? length - value / 1000 : value / 1000;
      this.regions.addRegion({
        id: point,
        start: Math.max(0, start),
        content: elementAt(name, 0).toUpperCase(),
        color: colours.getPropertyValue(token),
        drag: true,
        resize: false,
      });
    }
  }

  protected set(point: Point, at: number): void {
    const length = this.player!.getDuration();
    const fromEnd = POINTS.find((one) => one.point === point)!.fromEnd;
    const ms = Math.round((fromEnd ? length - at : at) * 1000);
    this.points.emit({ [point]: Math.max(0, Math.min(ms, this.card().durationMs)) });
  }

  protected turn(): void {
    void this.player?.playPause();
  }

  protected onKey(event: KeyboardEvent): void {
    const length = this.player?.getDuration() ?? 0;
    const step = event.shiftKey ? FINE_STEP : STEP;
    const to = { ArrowRight: this.seconds() + step, ArrowLeft: this.seconds() - step, Home: 0, End: length }[event.key];
    if (event.key === ' ') this.turn();
    else if (to === undefined) return;
    else this.seek(Math.max(0, Math.min(length, to)));
    event.preventDefault();
    event.stopPropagation();
  }

  /** Shown at once: the sound follows a moment later, and the next key goes on from here. */
  private seek(to: number): void {
    this.player?.setTime(to);
    this.seconds.set(to);
  }

  protected clock(): string {
    return `${formatDuration(Math.round(this.seconds()) * 1000)} of ${formatDuration(this.card().durationMs)}`;
  }
}

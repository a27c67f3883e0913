import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  ArrowDownToLine,
  ArrowLeft,
  Check,
  ChevronDown,
  CircleAlert,
  Clock3,
  CalendarRange,
  Columns3,
  Copy,
  FileUp,
  FolderOpen,
  Funnel,
  GripVertical,
  History,
  Hourglass,
  Keyboard,
  LibraryBig,
  ListMusic,
  Lock,
  LockOpen,
  MessageSquare,
  Moon,
  Music2,
  Pause,
  Play,
  Plus,
  Redo2,
  RefreshCw,
  Rows2,
  Rows4,
  Scale,
  Search,
  Send,
  Sun,
  Trash2,
  TriangleAlert,
  Undo2,
  X,
  type IconNode,
} from 'lucide';

const ICONS = {
  columns: Columns3,
  pool: Funnel,
  alert: CircleAlert,
  back: ArrowLeft,
  check: Check,
  clocks: Clock3,
  copy: Copy,
  dense: Rows4,
  comfortable: Rows2,
  delete: Trash2,
  down: ChevronDown,
  download: ArrowDownToLine,
  folder: FolderOpen,
  grip: GripVertical,
  handOver: Send,
  history: History,
  import: FileUp,
  jobs: Hourglass,
  keys: Keyboard,
  library: LibraryBig,
  lock: Lock,
  unlock: LockOpen,
  logs: ListMusic,
  moon: Moon,
  note: MessageSquare,
  pause: Pause,
  play: Play,
  plus: Plus,
  redo: Redo2,
  refresh: RefreshCw,
  rotation: Music2,
  rules: Scale,
  search: Search,
  sun: Sun,
  undo: Undo2,
  warning: TriangleAlert,
  week: CalendarRange,
  close: X,
} satisfies Record<string, IconNode>;

export type IconName = keyof typeof ICONS;

/** A line icon; it says nothing by itself, so what holds it carries the words. */
@Component({
  selector: 'f-icon',
  template: `<svg
    [attr.width]="size()"
    [attr.height]="size()"
    viewBox="0 0 24 24"
    fill="none"
    stroke="currentColor"
    stroke-width="1.75"
    stroke-linecap="round"
    stroke-linejoin="round"
    aria-hidden="true">
    @for (part of parts(); track $index) {
      @switch (part[0]) {
        @case ('path') {
          <svg:path [attr.d]="part[1]['d']" />
        }
        @case ('circle') {
          <svg:circle [attr.cx]="part[1]['cx']" [attr.cy]="part[1]['cy']" [attr.r]="part[1]['r']" />
        }
        @case ('rect') {
          <svg:rect
            [attr.x]="part[1]['x']"
            [attr.y]="part[1]['y']"
            [attr.width]="part[1]['width']"
            [attr.height]="part[1]['height']"
            [attr.rx]="part[1]['rx']" />
        }
        @case ('line') {
          <svg:line [attr.x1]="part[1]['x1']" [attr.y1]="part[1]['y1']" [attr.x2]="part[1]['x2']" [attr.y2]="part[1]['y2']" />
        }
        @case ('polyline') {
          <svg:polyline [attr.points]="part[1]['points']" />
        }
        @case ('polygon') {
          <svg:polygon [attr.points]="part[1]['points']" />
        }
      }
    }
  </svg>`,
  styles: `
    :host {
      display: inline-flex;
      flex: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Icon {
  readonly name = input.required<IconName>();
  readonly size = input(16);
  protected readonly parts = computed(() => ICONS[this.name()]);
}

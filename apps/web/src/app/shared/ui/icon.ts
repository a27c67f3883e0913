import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  ArrowDownToLine,
  ArrowLeft,
  Check,
  ChevronDown,
  CircleAlert,
  Ellipsis,
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
  CircleHelp,
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
  LucideAngularModule,
  type LucideIconData,
} from 'lucide-angular';

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
  help: CircleHelp,
  history: History,
  import: FileUp,
  jobs: Hourglass,
  keys: Keyboard,
  library: LibraryBig,
  lock: Lock,
  unlock: LockOpen,
  logs: ListMusic,
  more: Ellipsis,
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
} satisfies Record<string, LucideIconData>;

export type IconName = keyof typeof ICONS;

/** A line icon; it says nothing by itself, so what holds it carries the words. */
@Component({
  selector: 'f-icon',
  imports: [LucideAngularModule],
  template: `<lucide-angular [img]="image()" [size]="size()" [strokeWidth]="1.75" aria-hidden="true" />`,
  styles: `
    :host,
    lucide-angular {
      display: inline-flex;
      flex: none;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Icon {
  readonly name = input.required<IconName>();
  readonly size = input(16);
  protected readonly image = computed<LucideIconData>(() => ICONS[this.name()]);
}

import { computed, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { KeptLayout, TrafficOutcome } from '@fuller/contracts';
import { checkLayout, proposeLayout, readTextLog, type TextLayout, type TextLogRead } from '@fuller/core';
import { patchState, signalStore, withComputed, withHooks, withMethods, withProps, withState } from '@ngrx/signals';
import { debounceTime, Subject } from 'rxjs';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { Changes } from '../state/changes';
import { readTextFile } from '../shared/read-text-file';

const PAUSE_MS = 200;
/** Bytes. */
const LARGEST_LAYOUT = 100_000;

/** A layout for a file that proposes none: the person points out everything. */
const BLANK: TextLayout = {
  format: 'fuller-layout',
  version: 1,
  name: 'New layout',
  encoding: 'auto',
  delimiter: null,
  columns: [],
  times: 'clock',
  lengths: 'seconds',
  dayFirst: true,
  hourHeading: null,
  comments: ['#'],
  skipFirst: 0,
};

/** The layout of the station where it reads a spot; otherwise the one the file proposes. */
function layoutFor(text: string, name: string, own: KeptLayout | null): TextLayout {
  if (own && spotsBy(text, own.layout) > 0) return own.layout;
  return proposeLayout(text, name) ?? own?.layout ?? { ...BLANK, name };
}

function spotsBy(text: string, layout: TextLayout): number {
  try {
    return readTextLog(text, layout).spots.length;
  } catch {
    return 0;
  }
}

interface ImportPlace {
  readonly stationId: string;
  readonly date: string;
  readonly file: File | null;
  readonly text: string | null;
  readonly layout: TextLayout;
  /** Why the file cannot be taken at all. */
  readonly refused: string | null;
  /** What the import would do; null as long as it is not known. */
  readonly outcome: TrafficOutcome | null;
  /** Why the server would not import it. */
  readonly problem: string | null;
  readonly isBusy: boolean;
}

/** A traffic log on its way in: its text, the layout it is read by, and what would become of it. */
export const ImportTrafficStore = signalStore(
  withState<ImportPlace>({
    stationId: '',
    date: '',
    file: null,
    text: null,
    layout: BLANK,
    refused: null,
    outcome: null,
    problem: null,
    isBusy: false,
  }),
  withProps(() => ({ _changed: new Subject<void>() })),
  withComputed(({ text, layout }) => ({
    /** What is wrong with the layout; null where it reads. */
    fault: computed(() => {
      const checked = checkLayout(layout());
      return checked.ok ? null : checked.why;
    }),
    read: computed((): TextLogRead | null => {
      const [given, by] = [text(), checkLayout(layout())];
      if (given === null || !by.ok) return null;
      try {
        return readTextLog(given, by.layout);
      } catch {
        return null;
      }
    }),
  })),
  withMethods((store, api = inject(Api), changes = inject(Changes)) => {
    const newest = new Newest();
    const ask = (dryRun: boolean) => {
      const { stationId, date, text, layout, file } = {
        stationId: store.stationId(),
        date: store.date(),
        text: store.text() ?? '',
        layout: store.layout(),
        file: store.file(),
      };
      return api.importTraffic({ stationId, date }, { text, layout, fileName: file?.name ?? '', dryRun });
    };
    const look = async (): Promise<void> => {
      const isNewest = newest.begin();
      if (store.text() === null) return;
      const fault = store.fault();
      if (fault !== null) return void patchState(store, { outcome: null, problem: fault });
      try {
        const outcome = await ask(true);
        if (isNewest()) patchState(store, { outcome, problem: null });
      } catch (error) {
        if (isNewest())
          patchState(store, { outcome: null, problem: error instanceof Error ? error.message : String(error) });
      }
    };
    const setLayout = (layout: TextLayout): void => {
      patchState(store, { layout });
      store._changed.next();
    };
    return {
      look,
      setLayout,
      /** Opens a file with the layout of the station, or the one it proposes itself. */
      async open(stationId: string, date: string, file: File, own: KeptLayout | null): Promise<void> {
        newest.begin();
        patchState(store, { stationId, date, file, text: null, outcome: null, problem: null, refused: null });
        const read = await readTextFile(file, own?.layout.encoding);
        if (!read.ok) return void patchState(store, { file: null, refused: read.why });
        const name = file.name.replace(/\.[^.]*$/, '') || 'New layout';
        const layout = layoutFor(read.text, name.slice(0, 80), own);
        patchState(store, { text: read.text, layout });
        await look();
      },
      /** Reads the file by the layout it proposes; false where it proposes none. */
      propose(): boolean {
        const proposed = proposeLayout(store.text() ?? '', store.layout().name);
        if (proposed) setLayout(proposed);
        return proposed !== null;
      },
      /** Another encoding is another text. */
      async setEncoding(encoding: TextLayout['encoding']): Promise<void> {
        const file = store.file();
        const read = file && (await readTextFile(file, encoding));
        if (read?.ok) patchState(store, { text: read.text });
        setLayout({ ...store.layout(), encoding });
      },
      /** Whether it was imported. */
      async commit(): Promise<boolean> {
        patchState(store, { isBusy: true });
        const outcome = await changes.run(ask(false));
        patchState(store, { isBusy: false, ...(outcome ? { file: null, text: null, outcome: null } : {}) });
        return outcome !== null;
      },
      close(): void {
        newest.begin();
        patchState(store, { file: null, text: null, outcome: null, problem: null, refused: null });
      },
      /** Reads the file by a layout that somebody has shared; why it cannot, null where it does. */
      async openLayout(file: File): Promise<string | null> {
        try {
          if (file.size > LARGEST_LAYOUT) return `“${file.name}” is too large to be a layout.`;
          const checked = checkLayout(JSON.parse(await file.text()));
          if (!checked.ok)
            return `“${file.name}” is no layout: ${checked.path ? `${checked.path}: ` : ''}${checked.why}`;
          setLayout(checked.layout);
          return null;
        } catch {
          return `“${file.name}” is no layout: it is not JSON.`;
        }
      },
      /** Why the layout could not be kept; null where it was. */
      keep(id: string, name: string, revision: number): Promise<string | null> {
        return changes.attempt(
          api.saveLayout({ stationId: store.stationId(), id }, { name, layout: { ...store.layout(), name }, revision }),
        );
      },
    };
  }),
  withHooks({
    onInit(store) {
      store._changed.pipe(debounceTime(PAUSE_MS), takeUntilDestroyed()).subscribe(() => void store.look());
    },
  }),
);

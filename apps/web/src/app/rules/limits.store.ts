import { computed, inject } from '@angular/core';
import type { LimitCheck } from '@fuller/contracts';
import { patchState, signalStore, withComputed, withMethods, withProps, withState } from '@ngrx/signals';
import { Store } from '@ngrx/store';
import { Api } from '../shared/api/api';
import { Newest } from '../shared/api/newest';
import { catalogueFeature } from '../state/catalogue.feature';
import { Changes } from '../state/changes';
import { violationWords } from './limit-words';

/** What is checked: a file, or the logs of some days. */
type Subject =
  | { readonly kind: 'file'; readonly name: string; readonly content: string }
  | { readonly kind: 'days'; readonly from: string; readonly days: number };

interface LimitsState {
  readonly subject: Subject | null;
  readonly strict: boolean;
  readonly check: LimitCheck | null;
  readonly checking: boolean;
  readonly problem: string | null;
}

/** Playlists and logs checked against the statutory limits. */
export const LimitsStore = signalStore(
  withState<LimitsState>({ subject: null, strict: false, check: null, checking: false, problem: null }),
  withProps((_, store = inject(Store)) => ({
    settings: store.selectSignal(catalogueFeature.selectLimits),
    station: store.selectSignal(catalogueFeature.selectStation),
  })),
  withComputed(({ check, subject }) => ({
    /** Where the limits are exceeded, with the songs named. */
    violations: computed(() => {
      const found = check();
      const songs = new Map(found?.songs.map((song) => [song.position, song]));
      return (found?.violations ?? []).map((violation) => ({
        ...violation,
        words: violationWords(violation),
        songs: violation.positions.flatMap((position) => {
          const song = songs.get(position);
          return song ? [{ ...song, goes: found!.mend.remove.includes(position) }] : [];
        }),
      }));
    }),
    what: computed(() => {
      const about = subject();
      if (!about) return '';
      if (about.kind === 'file') return about.name;
      return about.days === 1 ? `The log of ${about.from}` : `The logs of ${about.days} days from ${about.from}`;
    }),
    /** The day whose log can be mended: the one that is checked. */
    mendable: computed(() => {
      const about = subject();
      return about?.kind === 'days' && about.days === 1 ? about.from : null;
    }),
  })),
  withMethods((store) => {
    const [api, changes, newest] = [inject(Api), inject(Changes), new Newest()];
    const run = async (): Promise<void> => {
      const [subject, strict, stationId] = [store.subject(), store.strict(), store.station()?.id];
      if (!subject || !stationId) return;
      const isNewest = newest.begin();
      patchState(store, { checking: true, problem: null });
      const asked =
        subject.kind === 'file'
          ? api.checkFile({ stationId }, { name: subject.name, content: subject.content, strict })
          : api.checkDays({
              stationId,
              from: subject.from,
              days: String(subject.days),
              strict: strict ? 'true' : 'false',
            });
      const answer = await asked.catch((error: unknown) => (error instanceof Error ? error.message : String(error)));
      if (!isNewest()) return;
      if (typeof answer === 'string') patchState(store, { checking: false, check: null, problem: answer });
      else patchState(store, { checking: false, check: answer });
    };
    return {
      run,
      async checkFile(file: File): Promise<void> {
        if (file.size > MOST_BYTES) {
          patchState(store, { subject: null, check: null, problem: `“${file.name}” is larger than 3 MB.` });
          return;
        }
        const content = await base64Of(file);
        patchState(store, { subject: { kind: 'file', name: file.name, content } });
        await run();
      },
      checkDays(from: string, days: number): Promise<void> {
        patchState(store, { subject: { kind: 'days', from, days } });
        return run();
      },
      beStrict(strict: boolean): Promise<void> {
        patchState(store, { strict });
        return run();
      },
      /** Replaces the fewest songs of the log so that it passes. */
      async mend(): Promise<void> {
        const [date, stationId] = [store.mendable(), store.station()?.id];
        if (!date || !stationId) return;
        const problem = await changes.attempt(api.mendLimits({ stationId, date }, { strict: store.strict() }));
        if (problem === null) await run();
        else patchState(store, { problem });
      },
      exempt(albums: readonly string[]): void {
        const stationId = store.station()?.id;
        if (!stationId) return;
        const change = api.setLimits({ stationId }, { ...store.settings(), exemptAlbums: [...albums] });
        void changes.run(change).then(run);
      },
    };
  }),
);

const MOST_BYTES = 3_000_000;

async function base64Of(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let text = '';
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
  return btoa(text);
}

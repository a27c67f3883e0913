import { inject, Injectable } from '@angular/core';
import type { Right } from '@fuller/contracts';
import { Router } from '@angular/router';
import { addDays } from '@fuller/core';
import { Store } from '@ngrx/store';
import { Looks } from '../shared/looks';
import { catalogueFeature } from '../state/catalogue.feature';
import { Session } from '../shared/session/session.store';
import { GenerateRuns } from '../state/generate-runs';
import { undoActions } from '../state/undo.feature';
import { KeysHelp } from './keys-help';
import { PLACES } from './places';

/** What can be made by name, and where. */
const NEW_THINGS = [
  { word: 'category', path: ['rotation'] },
  { word: 'clock', path: ['clocks'] },
  { word: 'show', path: ['week', 'shows'] },
  { word: 'date', path: ['week', 'dates'] },
] as const;

export interface Command {
  readonly text: string;
  readonly hint: string;
  /** What must be allowed for it; looking, where nothing is named. */
  readonly right?: Right;
  run(): void;
}

/** Everything that can be done by name from the search box. */
@Injectable({ providedIn: 'root' })
export class Commands {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly looks = inject(Looks);
  private readonly session = inject(Session);
  private readonly runs = inject(GenerateRuns);
  private readonly keys = inject(KeysHelp);
  private readonly station = this.store.selectSignal(catalogueFeature.selectStation);

  private readonly clocks = this.store.selectSignal(catalogueFeature.selectAllClocks);
  private readonly categories = this.store.selectSignal(catalogueFeature.selectAllCategories);
  private readonly shows = this.store.selectSignal(catalogueFeature.selectShows);

  all(): Command[] {
    const station = this.station();
    if (!station) return [];
    const go = (...path: string[]): void => void this.router.navigate(['/', station.id, ...path]);
    const commands: Command[] = [
      ...PLACES.map((place, index) => ({
        text: `Go to ${place.word}`,
        hint: `g ${(index + 1) % 10}`,
        run: () => go(place.path),
      })),
      { text: 'Begin with your own songs', hint: 'begin', right: 'library', run: () => go('begin') },
      { text: 'Forecast the weeks ahead', hint: 'insight', run: () => go('insight', 'forecast') },
      ...this.clocks().map(({ id, name }) => ({ text: `Clock ${name}`, hint: 'clock', run: () => go('clocks', id) })),
      ...this.categories().map(({ id, name, code }) => ({
        text: `Category ${name}`,
        hint: code,
        run: () => void this.router.navigate(['/', station.id, 'library'], { queryParams: { category: id } }),
      })),
      ...this.shows().map(({ id, name }) => ({
        text: `Show ${name}`,
        hint: 'show',
        run: () => go('week', 'shows', id),
      })),
      ...NEW_THINGS.map(({ word, path }) => ({
        text: `New ${word}`,
        hint: '',
        right: word === 'category' ? ('rotation' as const) : ('clocks' as const),
        run: () => void this.router.navigate(['/', station.id, ...path], { queryParams: { new: word } }),
      })),
      { text: 'Import into the library', hint: '', right: 'library', run: () => go('library', 'import') },
      { text: 'Generate today', hint: '', right: 'logs', run: () => void this.runs.start(station.today, 1, 'all') },
      {
        text: 'Generate tomorrow',
        hint: '',
        right: 'logs',
        run: () => void this.runs.start(addDays(station.today, 1), 1, 'all'),
      },
      {
        text: 'Generate the next seven days',
        hint: '',
        right: 'logs',
        run: () => void this.runs.start(addDays(station.today, 1), 7, 'all'),
      },
      {
        text: 'Fill open slots of today',
        hint: '',
        right: 'logs',
        run: () => void this.runs.start(station.today, 1, 'open'),
      },
      { text: 'Hand over today', hint: '', run: () => go('hand-over', station.today) },
      { text: 'Light or dark', hint: '', run: () => this.looks.turnTheme() },
      { text: 'Comfortable or dense rows', hint: '', run: () => this.looks.turnDensity() },
      { text: 'Undo', hint: 'Ctrl Z', run: () => this.store.dispatch(undoActions.undo()) },
      { text: 'Redo', hint: 'Ctrl Shift Z', run: () => this.store.dispatch(undoActions.redo()) },
      { text: 'Help', hint: 'F1', run: () => go('help', 'start') },
      { text: 'Show the keys', hint: '?', run: () => this.keys.open.set(true) },
      { text: 'Activity', hint: '', run: () => go('activity') },
      { text: 'People', hint: '', right: 'people', run: () => go('people') },
      { text: 'Backups', hint: '', right: 'care', run: () => go('backups') },
    ];
    return commands.filter(({ right = 'look' }) => this.session.may(right, station.id));
  }
}

import { describe, expect, it } from '@jest/globals';
import type { ForecastAnswer, ForecastBrief, ForecastRequest, ForecastView, JobView } from '@fuller/contracts';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import { ForecastDraft } from '../../state/forecast-draft';
import { jobsActions } from '../../state/jobs.feature';
import { openPage, openPlace } from '../../testing/place';
import { ForecastFigures } from './forecast-figures';
import { ForecastStore } from './forecast.store';

const beside = (today: number, changed = today) => ({ today, changed });
const ANSWER: ForecastAnswer = {
  from: '2026-11-25',
  weeks: 1,
  seed: 1,
  sentences: ['Open slots: 2, 5 today.'],
  slots: beside(2000),
  open: beside(5, 2),
  strains: [
    { ruleId: 'artist', rule: 'Artist rule', count: beside(3, 1) },
    { ruleId: 'quiet', rule: 'Never broken', count: beside(0) },
  ],
  onTime: beside(90, 100),
  hours: beside(100),
  categories: [
    {
      categoryId: 'gold',
      category: 'Gold',
      songs: beside(40, 45),
      plays: beside(200),
      rest: { today: 36_000, changed: 39_600 },
      spread: { today: 1, changed: null },
      open: beside(5, 2),
    },
  ],
  songs: [
    { itemId: 'a', title: 'Steady', artist: 'Ann', plays: beside(9), rest: { today: 3600, changed: 3600 } },
    { itemId: 'b', title: 'Fewer', artist: 'Bo', plays: beside(8, 3), rest: { today: 3600, changed: null } },
    { itemId: 'c', title: 'New', artist: 'Cy', plays: beside(0, 4), rest: { today: null, changed: 7200 } },
  ],
};
const BRIEF: ForecastBrief = { id: 'f1', atMs: 0, from: '2026-11-25', weeks: 1, changes: ['5 songs more in Gold'] };
const VIEW: ForecastView = {
  ...BRIEF,
  asked: { from: '2026-11-25', weeks: 1, seed: 1, changes: [{ kind: 'add', category: 'gold', songs: 5 }] },
  answer: ANSWER,
};
const job = (patch: Partial<JobView>): JobView => ({
  id: 'j',
  kind: 'forecast',
  label: 'Forecast a week',
  stationId: 'vale',
  clientId: 'me',
  state: 'running',
  progress: 0,
  doing: '',
  message: null,
  activityId: null,
  result: null,
  ...patch,
});

describe('a forecast that is made', () => {
  const open = () => {
    sessionStorage.clear();
    const place = openPlace(ForecastStore, {
      answers: { forecasts: () => [BRIEF], forecast: () => VIEW, startForecast: () => job({}) },
    });
    const end = (patch: Partial<JobView>) =>
      TestBed.inject(Store).dispatch(jobsActions.changed({ job: job({ state: 'done', ...patch }) }));
    return { ...place, end, draft: TestBed.inject(ForecastDraft) };
  };

  it('is asked with the draft, is the one the job names, and is kept in one step', async () => {
    const { store, server, end, draft, settle } = open();
    await store.open('vale');
    draft.add({ kind: 'add', category: 'gold', songs: 5 });
    draft.set({ weeks: 1 });
    const making = store.make();
    await settle();
    expect(store.running()?.label).toBe('Forecast a week');
    end({ result: { forecastId: 'f1' } });
    expect(await making).toBe('f1');
    const asked = server.asked('startForecast')[0]!.body as ForecastRequest;
    expect(asked).toEqual({ weeks: 1, seed: 1, changes: [{ kind: 'add', category: 'gold', songs: 5 }] });
    await store.show('f1');
    expect(await store.keep()).toBe(true);
    expect([server.asked('keepForecast').length, draft.changes()]).toEqual([1, []]);
  });

  it('tells why there is none, and keeps the draft then', async () => {
    const { store, end, draft, settle } = open();
    await store.open('vale');
    draft.add({ kind: 'fewer', category: 'gold', songs: 5 });
    const making = store.make();
    await settle();
    end({ state: 'failed', message: 'The category has 3 songs.' });
    expect([await making, store.problem(), draft.changes().length]).toEqual([null, 'The category has 3 songs.', 1]);
  });

  it('has a draft for each station, which a reload gives back', async () => {
    const { draft } = open();
    draft.open('vale');
    draft.add({ kind: 'rule', rule: 'artist', resting: true });
    draft.open('night');
    expect(draft.changes()).toEqual([]);
    draft.open('vale');
    expect(draft.changes()).toEqual([{ kind: 'rule', rule: 'artist', resting: true }]);
    await draft.forecastThis('vale', { kind: 'rule', rule: 'title' });
    expect(draft.changes()).toHaveLength(2);
  });
});

describe('the numbers of a forecast', () => {
  const figures = async (part: string, both: boolean) =>
    openPage(ForecastFigures, { stationId: 'vale', answer: ANSWER, both, part });

  it('stand side by side, and alone where nothing is changed', async () => {
    const page = await figures('rules', true);
    expect(page.text('.whole')).toContain('Open slots52');
    expect(page.text('.whole')).toContain('Hours that end within 5 s90 %100 %');
    expect(page.text('p-tabpanel')).not.toContain('Never broken');
    const alone = await figures('rules', false);
    expect(alone.text('.whole')).toContain('Open slots5');
    expect(alone.text('.whole')).not.toContain('Changed');
  });

  it('put the songs first whose plays change most', async () => {
    const page = await figures('songs', true);
    const grid = page.component as unknown as { songs: () => { title: string }[] };
    expect(grid.songs().map(({ title }) => title)).toEqual(['Fewer', 'New', 'Steady']);
    const alone = (await figures('songs', false)).component as unknown as { songs: () => { title: string }[] };
    expect(alone.songs().map(({ title }) => title)).toEqual(['Steady', 'Fewer', 'New']);
  });
});

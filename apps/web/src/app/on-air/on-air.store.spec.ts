import { describe, expect, it } from '@jest/globals';
import type { OnAir, PlayerCommand, PlayerState } from '@fuller/contracts';
import { ApiError } from '../shared/api/api';
import { openPlace } from '../testing/place';
import { OnAirStore } from './on-air.store';

const VIEW = {
  nowMs: 1_000_000,
  rate: 60,
  mode: 'playing',
  playing: null,
  next: [],
  stream: null,
} as unknown as PlayerState;
const SETTINGS = { revision: 4, playerUrl: 'http://p:1', hasToken: true, lateMs: 60_000, acceptAll: true };
const onAir = (more: Partial<OnAir['player']> = {}): OnAir => ({
  settings: SETTINGS,
  player: { state: 'connected', sinceMs: 0, why: '', view: VIEW, ...more },
});

function place() {
  const sent: object[] = [];
  const opened = openPlace(OnAirStore, {
    answers: {
      onAir: () => onAir(),
      rolling: () => ({ settings: { revision: 1, mode: 'off' }, rows: [], passedOver: [] }),
      commandPlayer: (_: object, command: PlayerCommand) => {
        if (command.do === 'go') throw new ApiError('DEVICE', 'The player does not wait for anybody.', undefined);
        return onAir({ view: { ...VIEW, mode: 'waiting' } });
      },
      setOnAir: (_: object, form: object) => {
        sent.push(form);
        return { activityId: 'a', label: 'Change what is on the air' };
      },
    },
  });
  return { ...opened, sent };
}

describe('what is on the air', () => {
  it('shows a clock that goes on between two answers as fast as the player’s, and stops where it is not answered', async () => {
    const { store } = place();
    store.open('vale');
    await store.load();
    const read = store.readMs();
    const clockAfter = (ms: number): number => {
      const was = Date.now;
      Date.now = () => read + ms;
      store.tick();
      Date.now = was;
      return store.clockMs();
    };
    expect(clockAfter(500)).toBe(1_000_000 + 500 * 60);
    expect(clockAfter(60_000)).toBe(1_000_000 + 3000 * 60);
  });

  it('takes the answer of a command at once, and tells a refusal without losing what is shown', async () => {
    const { store } = place();
    store.open('vale');
    await store.load();
    expect(await store.command({ do: 'skip' })).toBe(true);
    expect(store.view()?.mode).toBe('waiting');
    expect(await store.command({ do: 'go' })).toBe(false);
    expect([store.view()?.mode, store.isBusy()]).toEqual(['waiting', false]);
  });

  it('changes one setting and leaves the others, and never sends a token that was not typed', async () => {
    const { store, sent } = place();
    store.open('vale');
    await store.load();
    expect(await store.set({ acceptAll: false })).toBeNull();
    expect(sent).toEqual([{ revision: 4, playerUrl: 'http://p:1', lateMs: 60_000, acceptAll: false }]);
  });
});

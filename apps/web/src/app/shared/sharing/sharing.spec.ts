import { describe, expect, it } from '@jest/globals';
import type { Sharing, Use } from '@fuller/contracts';
import { freeCode, ownName, stationLines, usesText } from './sharing-words';

const uses = (kind: Use['kind'], ...names: string[]): Use[] => names.map((name) => ({ kind, name }));

describe('who uses a shared thing', () => {
  it('is told by kind, of many the first few', () => {
    const all = [...uses('clock', 'Dawn', 'Day', 'Dusk', 'Night', 'Late'), ...uses('week', '')];
    expect(usesText(all, 3)).toBe('clocks Dawn, Day, Dusk and 2 more; week');
    expect(usesText(uses('rule', 'Keep each artist apart'), 3)).toBe('rule Keep each artist apart');
    expect(usesText([], 3)).toBe('');
  });

  it('begins with the open station and ends with what is shared itself', () => {
    const sharing = {
      kind: 'category',
      stations: [
        { id: 'a', name: 'Alder', uses: uses('clock', 'Day') },
        { id: 'b', name: 'Birch', uses: uses('clock', 'Late') },
      ],
      shared: uses('clock', 'News'),
      notAt: [],
    } as unknown as Sharing;
    expect(stationLines(sharing, 'b').map(({ station, here, uses: words }) => [station, here, words])).toEqual([
      ['Birch', true, 'clock Late'],
      ['Alder', false, 'clock Day'],
      ['Shared things', false, 'clock News'],
    ]);
    const rule = { ...sharing, kind: 'rule', stations: [], shared: [], notAt: ['Cedar'] } as unknown as Sharing;
    expect(stationLines(rule, 'b')).toMatchObject([{ station: 'Cedar', uses: 'has its own in place of it' }]);
  });
});

describe('a copy of one’s own', () => {
  it('is offered a name and a code that are free and not too long', () => {
    expect(ownName('Gold', 'Osier Vale')).toBe('Gold (Osier Vale)');
    expect(ownName('G'.repeat(58), 'Osier Vale').length).toBeLessThanOrEqual(60);
    expect(freeCode('LN', ['LN', 'ln2'])).toBe('LN3');
    expect(freeCode('GOLD', ['GOLD'])).toBe('GOL2');
  });
});

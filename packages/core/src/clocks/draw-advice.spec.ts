import { describe, expect, it } from '@jest/globals';
import { drawAdvice } from './draw-advice.js';

const HOURS = 3600;

describe('drawAdvice', () => {
  it('sets the rest of an item in its turn against the separation of titles', () => {
    // 20 items for 168 slots come back every 20 hours.
    expect(drawAdvice(20, 168, 8 * HOURS)).toEqual({ is: 'enough' });
    expect(drawAdvice(20, 168, 15 * HOURS)).toEqual({ is: 'tight', restSeconds: 20 * HOURS });
    expect(drawAdvice(20, 168, 24 * HOURS)).toEqual({ is: 'too few', restSeconds: 20 * HOURS, needed: 24 });
    // As many as it takes are no longer too few.
    expect(drawAdvice(24, 168, 24 * HOURS).is).toBe('tight');
  });

  it('has nothing to say of a line the week does not use, and everything of one that finds nothing', () => {
    expect(drawAdvice(3, 0, 8 * HOURS)).toEqual({ is: 'enough' });
    expect(drawAdvice(0, 0, 0)).toEqual({ is: 'nothing' });
  });
});

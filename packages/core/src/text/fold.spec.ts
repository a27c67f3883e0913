import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { foldText, nameKey } from './fold.js';

describe('foldText', () => {
  it.each([
    ['  Réalta   Mhór ', 'realta mhor'],
    ['STRAẞE', 'strasse'],
    ['Øystein Åse', 'oystein ase'],
    ['e\u0301tude', 'etude'],
    ['ﬁne', 'fine'],
  ])('folds %j to %j', (text, folded) => expect(foldText(text)).toBe(folded));

  it('changes nothing the second time', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => expect(foldText(foldText(text))).toBe(foldText(text))),
    );
  });
});

describe('nameKey', () => {
  it.each([
    ['The Reedlings', 'reedlings, the'],
    ['THE REEDLINGS', 'Reedlings'],
    ['Marl & Daughter', 'Marl and Daughter'],
    ['Pinder’s Band', "Pinder's band"],
    ['Half-Tide', 'half tide'],
  ])('brings %j and %j together', (one, other) => expect(nameKey(one)).toBe(nameKey(other)));

  it('keeps names apart that differ in words', () => {
    expect(nameKey('The Sluices')).not.toBe(nameKey('The Sluice Gates'));
  });

  it('keeps an article that is the whole name, and names made of signs', () => {
    expect(nameKey('The')).toBe('the');
    expect(nameKey('!!!')).toBe('!!!');
  });
});

import { describe, expect, it } from '@jest/globals';
import { parseCredits } from './credits.js';

const told = (credit: string, exceptions: string[] = []): string =>
  parseCredits(credit, exceptions)
    .map(({ name, role }) => (role === 'featured' ? `(${name})` : name))
    .join(' | ');

describe('parseCredits', () => {
  it.each([
    ['Oona Tarbrook', 'Oona Tarbrook'],
    ['Oona Tarbrook feat. Ivo Vosslake', 'Oona Tarbrook | (Ivo Vosslake)'],
    ['Oona Tarbrook ft Ivo Vosslake', 'Oona Tarbrook | (Ivo Vosslake)'],
    ['Oona Tarbrook (feat. Ivo Vosslake)', 'Oona Tarbrook | (Ivo Vosslake)'],
    ['Oona Tarbrook [Featuring Ivo Vosslake & Maud Lowmere]', 'Oona Tarbrook | (Ivo Vosslake) | (Maud Lowmere)'],
    ['Oona & Ivo', 'Oona | Ivo'],
    ['Oona x Ivo', 'Oona | Ivo'],
    ['Oona × Ivo', 'Oona | Ivo'],
    ['Oona, Ivo and Maud', 'Oona | Ivo | Maud'],
    ['Oona, Ivo, & Maud', 'Oona | Ivo | Maud'],
    ['Oona vs. Ivo', 'Oona | Ivo'],
    ['Oona with Ivo feat. Maud', 'Oona | Ivo | (Maud)'],
    ['Oona and Oona', 'Oona'],
    ['Sluices, The', 'Sluices, The'],
    ['Andover Brass', 'Andover Brass'],
    ['Xylo Band', 'Xylo Band'],
    ['  ', ''],
  ])('reads %j as %j', (credit, expected) => expect(told(credit)).toBe(expected));

  it('never splits an act that is listed as one', () => {
    expect(told('Marl & Daughter', ['marl and daughter'])).toBe('Marl & Daughter');
    expect(told('Marl & Daughter & Ivo', ['Marl & Daughter'])).toBe('Marl & Daughter | Ivo');
    expect(told('Ivo, Marl & Daughter', ['Marl & Daughter'])).toBe('Ivo | Marl & Daughter');
    expect(told('Ivo feat. Marl & Daughter', ['Marl & Daughter'])).toBe('Ivo | (Marl & Daughter)');
  });
});

import { nameKey } from '@fuller/core';
import type { Dice } from './random.js';
import * as words from './words.js';

/** Makes names that are all different, whatever their spelling. */
export class NameMaker {
  private readonly artists = new Set<string>();
  private readonly titles = new Set<string>();

  constructor(private readonly dice: Dice) {}

  artist(style: 'folk' | 'groove' | 'electronic' | 'soul'): string {
    return this.fresh(this.artists, () => this.anyArtist(style));
  }

  title(irish: boolean): string {
    return this.fresh(this.titles, () => (irish ? this.irishTitle() : this.englishTitle()));
  }

  album(artist: string): string {
    const noun = this.dice.pick(words.TITLE_NOUNS);
    if (this.dice.chance(0.08)) return artist;
    if (this.dice.chance(0.45)) return `${this.dice.pick(words.TITLE_ADJECTIVES)} ${noun}s`;
    return `${noun} ${this.dice.pick(words.ALBUM_TAILS)}`;
  }

  private fresh(taken: Set<string>, make: () => string): string {
    for (;;) {
      const name = make();
      const key = nameKey(name);
      if (taken.has(key)) continue;
      taken.add(key);
      return name;
    }
  }

  private anyArtist(style: 'folk' | 'groove' | 'electronic' | 'soul'): string {
    const { dice } = this;
    if (style === 'groove' && dice.chance(0.25)) return dice.pick(words.GROOVE_BANDS);
    if (style === 'electronic' && dice.chance(0.5)) return dice.pick(words.SOLO_WORDS);
    if (dice.chance(0.55)) return `${dice.pick(words.FIRST_NAMES)} ${dice.pick(words.SURNAMES)}`;
    return `${dice.chance(0.6) ? 'The ' : ''}${dice.pick(words.BAND_ADJECTIVES)} ${dice.pick(words.BAND_NOUNS)}`;
  }

  private englishTitle(): string {
    const { dice } = this;
    const [adjective, noun, place] = [
      dice.pick(words.TITLE_ADJECTIVES),
      dice.pick(words.TITLE_NOUNS),
      dice.pick(words.TITLE_PLACES),
    ];
    switch (dice.whole(0, 8)) {
      case 0:
        return `${noun} on ${place}`;
      case 1:
        return `${dice.pick(words.TITLE_VERBS)} Me ${dice.pick(words.TITLE_ADVERBS)}`;
      case 2:
        return `Under a ${adjective} ${noun}`;
      case 3:
        return `${noun} and ${dice.pick(words.TITLE_NOUNS)}`;
      case 4:
        return `Back to ${place}`;
      case 5:
        return `The ${noun}’s Daughter`;
      case 6:
        return `${adjective}, ${dice.pick(words.TITLE_ADJECTIVES)} ${noun}`;
      default:
        return `${adjective} ${noun}`;
    }
  }

  private irishTitle(): string {
    return `${this.dice.pick(words.IRISH_WORDS)} ${this.dice.pick(words.IRISH_TAILS)}`;
  }
}

const COMBINING_MARKS = /\p{M}+/gu;
const NOT_A_WORD = /[^\p{L}\p{N}]+/gu;
const LEADING_ARTICLE = /^(the|a|an) (?=.)/;
const TRAILING_ARTICLE = /, *(the|a|an)$/i;
/** Letters that Unicode does not decompose but people type as two plain ones. */
const PLAIN_LETTERS: Readonly<Record<string, string>> = {
  ß: 'ss',
  æ: 'ae',
  œ: 'oe',
  ø: 'o',
  đ: 'd',
  ð: 'd',
  ł: 'l',
  þ: 'th',
  ı: 'i',
};

/** The text without case, accents and doubled spaces, for comparing what people typed. */
export function foldText(text: string): string {
  // Letters such as 𝔸 have a case only once they are decomposed, and lowering İ makes a new mark.
  return withoutMarks(withoutMarks(text).toLowerCase())
    .replace(/[ßæœøđðłþı]/g, (letter) => PLAIN_LETTERS[letter] ?? letter)
    .replace(/\s+/g, ' ')
    .trim();
}

function withoutMarks(text: string): string {
  return text.normalize('NFKD').replace(COMBINING_MARKS, '');
}

const PLAIN_SIGNS: Readonly<Record<string, string>> = {
  '‘': "'",
  '’': "'",
  '‚': "'",
  '“': '"',
  '”': '"',
  '„': '"',
  '«': '"',
  '»': '"',
  '–': '-',
  '—': '-',
  '−': '-',
  '×': 'x',
  '•': '*',
  '€': 'EUR',
};

/** The plain letters nearest to one, in its case; empty where there are none. */
export function plainLetter(letter: string): string {
  const lower = PLAIN_LETTERS[letter.toLowerCase()];
  const isCapital = letter !== letter.toLowerCase();
  if (lower !== undefined) return isCapital ? lower.charAt(0).toUpperCase() + lower.slice(1) : lower;
  const sign = PLAIN_SIGNS[letter];
  if (sign !== undefined) return sign;
  const plain = withoutMarks(letter);
  return plain === letter ? '' : plain;
}

/**
 * The key under which two spellings of one name meet: folded, without punctuation and without a
 * leading or trailing article. A name made of nothing but punctuation keeps its folded form, so
 * that it never collides with the empty name.
 */
export function nameKey(name: string): string {
  const folded = foldText(name.replace(TRAILING_ARTICLE, ''));
  const words = folded.replace(/['’]/g, '').replace(/&/g, ' and ').replace(NOT_A_WORD, ' ').trim();
  return words.replace(LEADING_ARTICLE, '') || folded;
}

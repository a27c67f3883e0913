import { describe, expect, it } from '@jest/globals';
import { decodeText } from './decode-text.js';
import { fileNameOf } from './file-name-pattern.js';
import { readRows } from './playlist-rows.js';

const refused = (text: string, format: Parameters<typeof readRows>[1]): string => {
  const read = readRows(text, format, ',');
  return read.ok ? `${read.rows.length} rows` : `${read.line}: ${read.why}`;
};

describe('texts that are too much', () => {
  it('are refused with what the limit is', () => {
    expect(refused(`title\n${'x\n'.repeat(500_001)}`, 'table')).toContain('more than 500,000 rows');
    expect(refused(`a\n${'x'.repeat(60_000)}\n`, 'table')).toBe(
      '2: Column 1 holds 60,000 characters; at most 50,000 are read.',
    );
    expect(refused(`${'x,'.repeat(300)}\n`, 'table')).toContain('301 columns; at most 200');
    expect(refused(`"${'x'.repeat(2_000_000)}"`, 'table')).toContain('longer than 1,000,000 characters');
    expect(refused('a.mp3\n'.repeat(500_001), 'm3u')).toContain('more than 500,000 rows');
    const fields = Array.from({ length: 300 }, (_, n) => ({ [`f${n}`]: n }));
    expect(refused(JSON.stringify(fields), 'json')).toContain('more than 200 different fields');
    expect(refused('['.repeat(100_000), 'json')).toContain('more than 60 levels');
    expect(refused(`<playlist>${'<a>'.repeat(100_000)}`, 'xspf')).toContain('more than 60 levels');
  });

  it('are read in time that grows with their length', () => {
    const startedAt = performance.now();
    for (const line of [
      `#EXTINF:${'1'.repeat(400_000)}`,
      `#EXTINF:${'1.'.repeat(200_000)},x`,
      `#EXTINF:${' '.repeat(400_000)}`,
    ])
      expect(refused(`#EXTM3U\n${line}\na.mp3\n`, 'm3u')).toBe('2 rows');
    // A quadratic reading takes minutes.
    expect(performance.now() - startedAt).toBeLessThan(5000);
  });

  it('tell what is wrong without repeating the file', () => {
    for (const [text, format] of [
      ['<playlist><secret-word></playlist>', 'xspf'],
      ['[{"secret-word": }]', 'json'],
    ] as const) {
      expect(refused(text, format)).toMatch(/^1: The file is not/);
      expect(refused(text, format)).not.toContain('secret');
    }
  });
});

describe('Windows-1252', () => {
  it('has a letter for every byte, as the code page says', () => {
    // Five bytes have none; U+FFFD lets a reader tell their rows.
    const high = '€\uFFFD‚ƒ„…†‡ˆ‰Š‹Œ\uFFFDŽ\uFFFD\uFFFD‘’“”•–—˜™š›œ\uFFFDžŸ';
    for (let byte = 1; byte < 256; byte++) {
      const decoded = decodeText(Uint8Array.of(0x41, byte), 'windows-1252');
      const expected = byte >= 0x80 && byte < 0xa0 ? high[byte - 0x80] : String.fromCharCode(byte);
      expect(decoded).toMatchObject({ ok: true, text: `A${expected}` });
    }
  });
});

describe('file name patterns', () => {
  it.each(['{constructor}', '{__proto__}', '{toString}', 'a\u0000b'])('refuse %j in words', (pattern) =>
    expect(fileNameOf(pattern, { station: 's', date: '2026-11-24', hour: null, hourRepeat: 0 })).toMatchObject({
      ok: false,
    }),
  );
});

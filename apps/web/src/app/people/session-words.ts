import type { SessionRow } from '@fuller/contracts';

const BROWSERS = [
  [/Edg\//, 'Edge'],
  [/Firefox\//, 'Firefox'],
  [/Chrom(?:e|ium)\//, 'Chrome'],
  [/Safari\//, 'Safari'],
] as const;
const SYSTEMS = [
  [/Windows/, 'Windows'],
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Mac OS X/, 'macOS'],
  [/Linux/, 'Linux'],
] as const;

/** A browser in a few words: “Firefox on Windows”. */
export function browserWords({ agent }: Pick<SessionRow, 'agent'>): string {
  const named = (list: readonly (readonly [RegExp, string])[]): string | undefined =>
    list.find(([pattern]) => pattern.test(agent))?.[1];
  const [browser, system] = [named(BROWSERS), named(SYSTEMS)];
  if (!browser) return agent.slice(0, 40) || 'A program';
  return system ? `${browser} on ${system}` : browser;
}

/** An instant as it is read: “24 Nov, 14:05”. */
export function whenWords(atMs: number): string {
  return new Date(atMs).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
}

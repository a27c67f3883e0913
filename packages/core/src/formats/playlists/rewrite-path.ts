/** Which slashes a player’s paths have. */
export const SLASHES = ['as they are', 'forward', 'backward'] as const;
export type Slashes = (typeof SLASHES)[number];

/** A beginning of paths, and what the player's machine has in its place. */
export interface PathPrefix {
  readonly from: string;
  readonly to: string;
}

/** A path as the player's machine knows it: the first beginning that fits is replaced, then slashes are turned. */
export function rewritePath(path: string, prefixes: readonly PathPrefix[], slashes: Slashes): string {
  const prefix = prefixes.find(({ from }) => path.startsWith(from));
  const moved = prefix ? prefix.to + path.slice(prefix.from.length) : path;
  if (slashes === 'as they are' || /^[a-z][a-z0-9+.-]+:\/\//i.test(moved)) return moved;
  return slashes === 'forward' ? moved.replaceAll('\\', '/') : moved.replaceAll('/', '\\');
}

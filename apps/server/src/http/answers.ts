import type { Change } from '@fuller/contracts';
import type { Written } from '../store/store.js';

/** What a change answers. */
export function changeOf({ activityId, label, left }: Written<unknown>): Change {
  return { activityId, label, ...(left.length > 0 ? { left: [...left] } : {}) };
}

/** What making something answers. */
export async function created(writing: Promise<Written<string>>): Promise<Change & { id: string }> {
  const written = await writing;
  return { ...changeOf(written), id: written.value };
}

import type { ClockLine } from '@fuller/core';
import { ClockEntity } from '../db/entities/index.js';
import type { Em } from '../db/orm.js';
import { FullerError } from '../errors.js';
import type { ChangeSet } from '../store/change-set.js';

const sharesBy = (line: ClockLine, family: string): boolean => line.kind === 'pick' && line.theme?.by === family;

/** Lines of clocks that share values of a tag family go by the name it has now. */
export async function renameInThemes(changes: ChangeSet, was: string, name: string): Promise<void> {
  if (was === name) return;
  for (const { id, lines } of await changes.em.find(ClockEntity, {}, { disableIdentityMap: true })) {
    if (!lines.some((line) => sharesBy(line, was))) continue;
    const renamed = lines.map((line) =>
      line.kind === 'pick' && line.theme?.by === was ? { ...line, theme: { ...line.theme, by: name } } : line,
    );
    await changes.update('clock', id, { lines: renamed });
  }
}

/** Throws IN_USE while lines of a clock share values of a tag family. */
export async function refuseThemed(em: Em, family: string): Promise<void> {
  const clocks = await em.find(ClockEntity, {}, { disableIdentityMap: true });
  const used = clocks.find(({ lines }) => lines.some((line) => sharesBy(line, family)));
  if (used) throw new FullerError('IN_USE', `Lines of the clock ${used.name} share one ${family}; change them first.`);
}

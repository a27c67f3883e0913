import { elementAt } from '@fuller/core';
import type { EntityMetadata, EntityProperty } from '@mikro-orm/core';
import type { Em } from '../../orm.js';
import { rowsOf } from '../../queries/query.js';

/** Inserts rows of an entity as one document, which PostgreSQL takes apart: one statement for those with the same fields. */
export async function insertDocument(
  em: Em,
  meta: EntityMetadata,
  rows: readonly Readonly<Record<string, unknown>>[],
): Promise<void> {
  const alike = new Map<string, Readonly<Record<string, unknown>>[]>();
  for (const row of rows) {
    const key = Object.keys(row).join(' ');
    const known = alike.get(key);
    if (known) known.push(row);
    else alike.set(key, [row]);
  }
  for (const group of alike.values()) {
    const names = Object.keys(elementAt(group, 0)).map((name) => [
      name,
      elementAt((meta.properties[name as never] as EntityProperty).fieldNames, 0),
    ]);
    const columns = names.map(([, column]) => `"${column}"`).join(', ');
    const document = group.map((row) =>
      Object.fromEntries(names.map(([name, column]) => [column, plain(row[name!])] as const)),
    );
    await rowsOf(
      em,
      `insert into "${meta.tableName}" (${columns})
       select ${columns} from json_populate_recordset(null::"${meta.tableName}", ?::json)`,
      [JSON.stringify(document)],
    );
  }
}

function plain(value: unknown): unknown {
  return ArrayBuffer.isView(value) ? `\\x${Buffer.from(value as Uint8Array).toString('hex')}` : value;
}

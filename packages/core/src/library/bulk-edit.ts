/** Text fields in which a part of the text can be replaced. */
export const REPLACED_FIELDS = ['title', 'artist', 'album', 'label', 'notes', 'file'] as const;
/** A field in which a text can be replaced. */
export type ReplacedField = (typeof REPLACED_FIELDS)[number];

/** One change asked of many items. */
export type BulkEdit =
  | { readonly do: 'set'; readonly field: string; readonly value: unknown }
  /** Every place where a text stands, whatever its case. */
  | { readonly do: 'replace'; readonly field: ReplacedField; readonly find: string; readonly by: string }
  | {
      readonly do: 'tag';
      readonly family: string;
      readonly how: 'add' | 'remove' | 'set';
      readonly values: readonly string[];
    };

type Tags = Readonly<Record<string, readonly string[]>>;
/** An item as one change to many sees it: its fields and its tags. */
export type EditedItem = Readonly<Record<string, unknown>> & { readonly tags: Tags };

/** What an edit changes in an item: the field and its values before and after; null when it changes nothing. */
export function bulkChange(
  item: EditedItem,
  edit: BulkEdit,
): { readonly field: string; readonly before: unknown; readonly after: unknown } | null {
  switch (edit.do) {
    case 'set': {
      const before = item[edit.field] ?? null;
      return before === edit.value ? null : { field: edit.field, before, after: edit.value };
    }
    case 'replace': {
      const before = item[edit.field];
      if (typeof before !== 'string') return null;
      const after = before.replace(new RegExp(escaped(edit.find), 'giu'), () => edit.by).trim();
      return after === before ? null : { field: edit.field, before, after };
    }
    case 'tag': {
      const before = item.tags[edit.family] ?? [];
      const after = tagsAfter(before, edit.how, edit.values);
      if (after.length === before.length && after.every((value, at) => value === before[at])) return null;
      const { [edit.family]: gone, ...others } = item.tags;
      void gone;
      return {
        field: 'tags',
        before: item.tags,
        after: after.length > 0 ? { ...others, [edit.family]: after } : others,
      };
    }
  }
}

function tagsAfter(before: readonly string[], how: 'add' | 'remove' | 'set', values: readonly string[]): string[] {
  if (how === 'remove') return before.filter((value) => !values.includes(value));
  return [...new Set(how === 'add' ? [...before, ...values] : values)];
}

function escaped(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
}

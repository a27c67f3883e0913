import { instanceFields, type RuleForm, piecesOf } from '../form.js';

/** Hand-offs as people meet them. */
export const handOffForm: RuleForm = {
  amount: null,
  strengths: ['hard', 'soft'],
  pieces: piecesOf('No {next} right after {first}'),
  amountPart: () => '',
  read: ({ mentions, rest }) => {
    if (!/\bafter\b/.test(rest)) return null;
    const [next, first] = mentions;
    if (!next || !first || mentions.length > 2 || next.value === null || first.value === null)
      return { ok: false, why: 'Say two values of one tag, as in “no tempo fast after tempo slow”.' };
    const tag = sharedTag(next, first);
    if (tag === null) return { ok: false, why: `“${next.value}” and “${first.value}” are not values of one tag.` };
    return {
      ok: true,
      parts: {
        shape: 'handOff',
        tag,
        value: first.value,
        followedBy: next.value,
        amount: 0,
        windowSeconds: null,
        exceptions: [],
      },
    };
  },
  amountText: () => '',
  readAmount: () => ({ ok: false, why: 'A hand-off has no amount.' }),
  excessText: () => 'right after',
  instanceRule: (rule, id) => {
    const { value, ...fields } = instanceFields(rule, id);
    return { ...fields, shape: 'handOff', from: value ?? '', to: rule.followedBy ?? '' };
  },
  reachSeconds: () => 1800,
};

interface Named {
  readonly tag: string;
  readonly ambiguous: readonly string[];
}

function sharedTag(a: Named, b: Named): string | null {
  const tagsOf = ({ tag, ambiguous }: Named): readonly string[] => (ambiguous.length > 0 ? ambiguous : [tag]);
  const [shared, ...others] = tagsOf(a).filter((tag) => tagsOf(b).includes(tag));
  return shared !== undefined && others.length === 0 ? shared : null;
}

import type { AnySchema } from '../../../contract/yup.ts';

/** So many characters where a schema says more, or nothing: what people write on an average. */
const WORDS = 24;
/** An id, a version, an amount. */
const NUMBER = 1_234_567;

interface Described {
  type: string;
  optional?: boolean;
  fields?: Record<string, Described>;
  innerType?: Described | Described[];
  tests?: { name?: string; params?: Record<string, unknown> }[];
  oneOf?: unknown[];
}

const limit = ({ tests = [] }: Described, name: string): number | undefined => {
  const found = tests.find((test) => test.name === name)?.params?.[name];
  return typeof found === 'number' ? found : undefined;
};

/** So many of the last list, where lists stand in each other: nobody fills all of all. */
const INSIDE = 10;

/**
 * A body as a schema has it whose lists hold as much as they may, with words and numbers of an average length. What is
 * no part of most elements of a list is left out there.
 */
export const fullBody = (schema: AnySchema): unknown => full(schema.describe() as Described, false);

function full(schema: Described, inside: boolean): unknown {
  if (schema.type === 'object') {
    const fields = Object.entries(schema.fields ?? {});
    const some = inside ? fields.filter(([, { type, optional }]) => type !== 'object' || !optional) : fields;
    return Object.fromEntries(some.map(([key, field]) => [key, full(field, inside)]));
  }
  if (schema.type === 'array' || schema.type === 'tuple') {
    const inner = schema.innerType;
    if (Array.isArray(inner)) return inner.map((one) => full(one, inside));
    const most = limit(schema, 'max') ?? limit(schema, 'length') ?? 1;
    return inner && Array.from({ length: inside ? Math.min(most, INSIDE) : most }, () => full(inner, true));
  }
  const [one] = schema.oneOf ?? [];
  if (one !== undefined) return one;
  if (schema.type === 'number') return NUMBER;
  if (schema.type === 'boolean') return true;
  if (schema.tests?.some(({ name }) => name === 'uuid')) return '00000000-0000-0000-0000-000000000000';
  return 'x'.repeat(Math.min(limit(schema, 'max') ?? WORDS, WORDS));
}

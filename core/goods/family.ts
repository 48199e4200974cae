import { fold } from '../words.ts';

/** What variants of a family differ in, and the values that it takes. */
export interface Axis {
  name: string;
  values: readonly string[];
}

/** A variant that is to be made: its value on each axis, and what it is known by. */
export interface NewVariant {
  variant: string[];
  number: string;
  /** Empty where it has none. */
  code: string;
  /** Of one; `null` asks for it at the Counter. */
  price: number | null;
}

export const MOST_VARIANTS = 200;

/** Every value of the first axis with every value of the second, the first axis slowest. */
export const variantsOf = (axes: readonly Axis[]): string[][] =>
  axes.reduce<string[][]>(
    (begun, { values }) => begun.flatMap((some) => values.map((value) => [...some, value])),
    [[]],
  );

export const variantKey = (variant: readonly string[]): string => JSON.stringify(variant.map(fold));

/** The name of a variant: that of its family, and its values. */
export const variantName = (family: string, variant: readonly string[]): string =>
  `${family}, ${variant.join(', ')}`.slice(0, 120);

const lettersOf = (value: string) =>
  fold(value)
    .replaceAll(/[^a-z0-9]/g, '')
    .toUpperCase();

/** Letters at the beginning of a value that tell a family's values apart, as a rule. */
const SHORTEST = 3;

/**
 * Short forms of an axis's values: as few of their first letters as tell them all apart, at least three where there are
 * so many. Values that letters cannot tell apart are counted.
 */
export function shortForms(values: readonly string[]): Map<string, string> {
  const letters = values.map(lettersOf);
  const longest = Math.max(SHORTEST, ...letters.map((word) => word.length));
  for (let length = SHORTEST; length <= longest; length += 1) {
    const short = letters.map((word) => word.slice(0, length));
    if (new Set(short).size === short.length && !short.includes(''))
      return new Map(values.map((value, at) => [value, short[at] ?? '']));
  }
  return new Map(values.map((value, at) => [value, String(at + 1)]));
}

/** Numbers for variants of a family: the family's, with the short form of each value. */
export function variantNumbers(
  family: string,
  axes: readonly Axis[],
): (variant: readonly string[]) => string {
  const short = axes.map(({ values }) => shortForms(values));
  return (variant) =>
    [family, ...variant.map((value, axis) => short[axis]?.get(value) ?? lettersOf(value).slice(0, SHORTEST))]
      .filter((part) => part !== '')
      .join('-')
      .slice(0, 40);
}

/** What keeps variants from being made, by where it stands: `axes[0]`, `variants[3].number`. */
export function familyProblems(
  axes: readonly string[],
  variants: readonly NewVariant[],
): Record<string, string> {
  const problems: Record<string, string> = {};
  const names = axes.map(fold);
  if (names.length === 2 && names[0] === names[1]) problems['axes[1]'] = 'They differ in that already.';
  const seen = { variant: new Set<string>(), number: new Set<string>(), code: new Set<string>() };
  variants.forEach(({ variant, number, code }, at) => {
    const put = (field: keyof typeof seen, value: string, words: string) => {
      if (value !== '' && seen[field].has(value)) problems[`variants[${at}].${field}`] = words;
      seen[field].add(value);
    };
    if (variant.length !== axes.length || variant.some((value) => value.trim() === ''))
      problems[`variants[${at}].variant`] = 'A value is missing.';
    put('variant', variantKey(variant), 'It stands there twice.');
    put('number', fold(number), 'Another one has this number.');
    put('code', fold(code), 'Another one has this code.');
    const other = variants.findIndex((one) => code !== '' && fold(one.number) === fold(code));
    if (other >= 0 && other !== at) problems[`variants[${at}].code`] = 'It is the number of another one.';
  });
  return problems;
}

import type { Item } from './item.ts';

/** The variants of a family as a table: one axis down, the other across. */
export interface VariantMatrix {
  /** What the rows differ in, e.g. `Size`. */
  down: string;
  /** What the columns differ in; empty where the variants differ in one thing only. */
  across: string;
  rows: { name: string; cells: (Item | null)[] }[];
  columns: string[];
}

/**
 * Lays variants out by what they differ in. The axis with more values goes down, so that the table stays narrow;
 * values keep the order in which the variants come.
 * @param axes one or two names, as the family has them
 */
export function variantMatrix(axes: readonly string[], variants: readonly Item[]): VariantMatrix {
  const valuesOf = (axis: number) => [...new Set(variants.map(({ more }) => more?.variant?.[axis] ?? ''))];
  const turned = axes.length === 2 && valuesOf(1).length > valuesOf(0).length;
  const [downAxis, acrossAxis] = turned ? [1, 0] : [0, 1];
  const columns = axes.length === 2 ? valuesOf(acrossAxis) : [''];
  const at = new Map(
    variants.map((item) => [
      JSON.stringify([item.more?.variant?.[downAxis] ?? '', item.more?.variant?.[acrossAxis] ?? '']),
      item,
    ]),
  );
  return {
    down: axes[downAxis] ?? '',
    across: axes.length === 2 ? (axes[acrossAxis] ?? '') : '',
    columns,
    rows: valuesOf(downAxis).map((name) => ({
      name,
      cells: columns.map((column) => at.get(JSON.stringify([name, column])) ?? null),
    })),
  };
}

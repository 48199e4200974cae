import { one, type Parameter, type Reader } from './database.ts';

/** Takes a value that a question needs. @returns where it stands there, as `$n` */
export type Ask = (value: Parameter) => string;

/** Values that a question asks with, numbered as they are asked for, after those that stand in it already. */
export function asking(...first: Parameter[]): { given: Parameter[]; ask: Ask } {
  const given: Parameter[] = [...first];
  return { given, ask: (value) => `$${given.push(value)}` };
}

/**
 * How many rows there are.
 * @param from SQL of the tables that are asked, with `from`
 * @param fits which rows are meant, as SQL
 */
export async function countOf(sql: Reader, from: string, fits: (ask: Ask) => string): Promise<number> {
  const { given, ask } = asking();
  const where = fits(ask);
  return one(
    await sql.query<{ count: number }>(`select count(*)::integer as count ${from} where ${where}`, given),
  ).count;
}

/** The number that is typed, plainly or with what stands before it on the screen: `12`, `B-0012`, `Transfer 12`. */
export function typedNumber(find: string): number | undefined {
  const [, digits] = /^(?:[a-z]+[- ])?0*(\d{1,9})$/i.exec(find.trim()) ?? [];
  return digits === undefined ? undefined : Number(digits);
}

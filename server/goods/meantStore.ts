import { spellings } from '../../core/goods/codes.ts';
import type { Reader } from '../db/database.ts';

/**
 * Items whose number or code is one of some spellings: their ids, and at which place that spelling stands; as a
 * statement.
 * @param asked where the spellings of the code stand, the likeliest first
 */
export const itemsMeant = (asked: string): string => {
  const list = `${asked}::text[]`;
  return `select item_id as id, array_position(${list}, lower(code)) as place
      from item_code where lower(code) = any (${list})
    union all select id, array_position(${list}, lower(number)) from item where lower(number) = any (${list})`;
};

/** The item that a code or number means, in any spelling. */
export async function itemMeant(
  sql: Reader,
  code: string,
): Promise<{ id: number; name: string } | undefined> {
  const [row] = await sql.query<{ id: number; name: string }>(
    `select id, name from (${itemsMeant('$1')}) as meant join item using (id) order by place limit 1`,
    [spellings(code)],
  );
  return row;
}

/**
 * Begins a statement: `meant (code, id, name)` are the items that some codes or numbers mean in any spelling.
 * @param asked where the codes stand, as `inSpellings` gives them
 */
export const withItemsMeant = (asked: string): string =>
  `with asked as (select * from jsonb_to_recordset(${asked}::jsonb) as one (code text, spelling text)),
   meant as (
     select asked.code, item.id, item.name from asked
       join item_code on lower(item_code.code) = asked.spelling join item on item.id = item_id
     union select asked.code, item.id, item.name from asked join item on lower(item.number) = asked.spelling)`;

/** Codes with their spellings, as one value. */
export const inSpellings = (codes: readonly string[]): string =>
  JSON.stringify(codes.flatMap((code) => spellings(code).map((spelling) => ({ code, spelling }))));

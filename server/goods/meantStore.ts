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

import type { PossiblePart } from '../../core/goods/bundle.ts';
import type { Reader, Writer } from '../db/database.ts';

/** A family as far as its variants go. */
export interface StoredFamily {
  axes: string[];
  variants: string[][];
  /** The one that was made last, if there is any. */
  lastVariant: number | null;
}

export async function findFamily(sql: Reader, id: number): Promise<StoredFamily | undefined> {
  const [row] = await sql.query<StoredFamily>(
    `select axes, coalesce((select json_agg(one.variant order by one.id) from item as one
      where one.family_id = item.id), '[]'::json) as variants,
       (select max(one.id) from item as one where one.family_id = item.id) as "lastVariant"
     from item where id = $1 and kind = 'family'`,
    [id],
  );
  return row;
}

/** What may be in a bundle, by its id. */
export async function possibleParts(sql: Reader, ids: readonly number[]): Promise<Map<number, PossiblePart>> {
  const rows = await sql.query<PossiblePart & { id: number }>(
    'select id, name, kind, active, decimals from item where id = any ($1::integer[])',
    [ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** Puts other things into a bundle, and lets the tills hear of it. */
export async function putParts(
  sql: Writer,
  id: number,
  parts: readonly { itemId: number; quantity: number }[],
): Promise<void> {
  await sql.query('delete from bundle_part where bundle_id = $1', [id]);
  await sql.query(
    `insert into bundle_part (bundle_id, position, item_id, quantity)
     select $1, nth, "itemId", quantity
     from rows from (jsonb_to_recordset($2) as ("itemId" integer, quantity bigint))
       with ordinality as part ("itemId", quantity, nth)`,
    [id, JSON.stringify(parts)],
  );
  await sql.query('update item set kind = kind, version = version + 1 where id = $1', [id]);
}

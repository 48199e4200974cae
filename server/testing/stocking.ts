import type { Writer } from '../db/database.ts';
import { openEvent, postCosts } from '../ledger/store.ts';

/** Lets just so much of an item lie at a place, as if somebody had found the rest, or missed it. */
export async function setStock(
  sql: Writer,
  number: string,
  placeId: number,
  quantity: number,
): Promise<void> {
  const [item] = await sql.query<{ id: number }>('select id from item where number = $1', [number]);
  const itemId = item?.id ?? 0;
  await sql.query('select lock_levels(array[$1::integer], array[$2::integer])', [itemId, placeId]);
  const [level] = await sql.query<{ quantity: number }>(
    'select quantity from stock_level where item_id = $1 and place_id = $2',
    [itemId, placeId],
  );
  const more = quantity - (level?.quantity ?? 0);
  if (more === 0) return;
  const at = new Date();
  const event = await openEvent(sql, { kind: 'stock', at });
  await sql.query('update stock_level set quantity = $3 where item_id = $1 and place_id = $2', [
    itemId,
    placeId,
    quantity,
  ]);
  const line = { itemId, placeId, quantity: Math.abs(more), reason: 'missing', against: 'shrinkage' };
  if (more > 0)
    await sql.query('select bring_layers($1, $2, $3, $4)', [
      event,
      at.toISOString(),
      JSON.stringify([line]),
      JSON.stringify({ reason: 'found', against: 'shrinkage' }),
    ]);
  else await sql.query('select take_goods($1, $2, $3)', [event, at.toISOString(), JSON.stringify([line])]);
  await postCosts(sql, event);
}

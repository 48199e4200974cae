import type { Writer } from '../db/database.ts';
import { bringLayers, changeLevels, takeGoods } from '../goods/layerStore.ts';
import { openEvent, postCosts } from '../books/store.ts';

/** Lets just so much of an item lie at a place, as if somebody had found the rest, or missed it. */
export async function setStock(
  sql: Writer,
  number: string,
  placeId: number,
  quantity: number,
): Promise<void> {
  const [item] = await sql.query<{ id: number }>('select id from item where number = $1', [number]);
  const itemId = item?.id ?? 0;
  const levels = await sql.query<{ quantity: number }>(
    'select quantity from stock_level where item_id = $1 and place_id = $2 for update',
    [itemId, placeId],
  );
  const change = quantity - (levels[0]?.quantity ?? 0);
  if (change === 0) return;
  const moving = { event: await openEvent(sql, { kind: 'stock', at: new Date() }), at: new Date() };
  await changeLevels(sql, placeId, [{ itemId, change }]);
  const facing = { reason: change > 0 ? 'found' : 'missing', against: 'shrinkage' } as const;
  const goods = { itemId, placeId, quantity: Math.abs(change) };
  if (change > 0) await bringLayers(sql, [goods], facing, moving);
  else await takeGoods(sql, [{ ...goods, ...facing }], moving);
  await postCosts(sql, moving.event);
}

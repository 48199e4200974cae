import { ROLE_RIGHTS } from '../core/staff/rights.ts';
import type { Writer } from '../server/db/database.ts';
import { addEntry, beginCount, bookCount } from '../server/counts/counts.ts';

/** Picks were counted on the morning of the last day: of one kind two were missing. */
export async function layCount(
  sql: Writer,
  shop: { place: number; staffId: number; until: Date },
): Promise<void> {
  const by = { staffId: shop.staffId, at: new Date(shop.until.getTime() - 3_600_000) };
  const [category] = await sql.query<{ id: number }>("select id from category where name = 'Picks'");
  const { id } = await beginCount(
    sql,
    {
      placeId: shop.place,
      words: 'Picks, the drawers by the door',
      everything: false,
      categories: [category?.id ?? 0],
      suppliers: [],
      blind: true,
    },
    by,
  );
  const items = await sql.query<{ itemId: number; quantity: number }>(
    `select item.id as "itemId", coalesce(level.quantity, 0)::bigint as quantity from item
     left join stock_level as level on level.item_id = item.id and level.place_id = $1
     where category_id = $2 and item.kind = 'goods' and item.stocked order by item.id`,
    [shop.place, category?.id ?? 0],
  );
  const most = items.toSorted((a, b) => b.quantity - a.quantity)[0]?.itemId;
  for (const { itemId, quantity } of items)
    await addEntry(
      sql,
      id,
      { itemId, code: '', serial: '', quantity: Math.max(0, quantity - (itemId === most ? 2_000 : 0)) },
      by,
    );
  const person = { staffId: shop.staffId, name: '', role: 'manager', tillId: 1, sessionId: 0 } as const;
  await bookCount(sql, id, { ...person, rights: [...ROLE_RIGHTS.manager] }, { approval: null, at: by.at });
}

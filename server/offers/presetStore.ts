import type { NewPreset } from '../../contract/setup.ts';
import type { DiscountPreset } from '../../core/pricing/discount.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** Discounts that the shop has ready. */
export async function discountPresets(sql: Reader): Promise<DiscountPreset[]> {
  const rows = await sql.query<Omit<DiscountPreset, 'size'> & { kind: 'percent' | 'amount'; value: number }>(
    `select preset.id, preset.name, kind, value, needs_customer as "needsCustomer", customer_group.name as group
     from discount_preset as preset left join customer_group on customer_group.id = group_id
     where active order by preset.id`,
  );
  return rows.map(({ kind, value, ...preset }) => ({
    ...preset,
    size: kind === 'percent' ? { kind, rate: value } : { kind, amount: value },
  }));
}

export async function addPreset(sql: Writer, preset: NewPreset): Promise<number> {
  const rows = await sql.query<{ id: number }>(
    `insert into discount_preset (name, kind, value, needs_customer, group_id) values ($1, $2, $3, $4, $5)
     returning id`,
    [preset.name, preset.kind, preset.value, preset.needsCustomer, preset.groupId],
  );
  return one(rows).id;
}

/** A preset that is given no more. What was given with it stays as it was. */
export async function endPreset(sql: Writer, id: number): Promise<void> {
  await sql.query('update discount_preset set active = false where id = $1', [id]);
}

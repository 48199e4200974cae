import type { NewPreset } from '../../contract/setup.ts';
import type { DiscountPreset } from '../../core/offers/discount.ts';
import type { Rate } from '../../core/rate.ts';
import type { Role } from '../../core/staff/rights.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** Discounts that the shop has ready. */
export async function discountPresets(sql: Reader): Promise<DiscountPreset[]> {
  const rows = await sql.query<Omit<DiscountPreset, 'size'> & { kind: 'percent' | 'amount'; value: number }>(
    `select preset.id, preset.name, kind, value, needs_customer as "needsCustomer", held.name as group
     from discount_preset as preset left join customer_group as held on held.id = group_id
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

/** How much discount each role gives alone. */
export async function discountLimits(sql: Reader): Promise<Record<Role, Rate>> {
  const rows = await sql.query<{ role: Role; rate: Rate }>('select role, rate from role_discount_limit');
  const limits: Record<Role, Rate> = { cashier: 0, supervisor: 0, manager: 0 };
  for (const { role, rate } of rows) limits[role] = rate;
  return limits;
}

export async function setDiscountLimit(sql: Writer, role: Role, rate: Rate): Promise<void> {
  await sql.query('update role_discount_limit set rate = $2 where role = $1', [role, rate]);
}

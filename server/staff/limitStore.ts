import type { Money } from '../../core/money.ts';
import type { Rate } from '../../core/rate.ts';
import type { Role } from '../../core/staff/rights.ts';
import type { Reader, Writer } from '../db/database.ts';

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

/** How much stock each role puts right alone, by what it cost; `null` is without a limit. */
export async function stockLimits(sql: Reader): Promise<Record<Role, Money | null>> {
  const rows = await sql.query<{ role: Role; amount: Money | null }>(
    'select role, amount from role_stock_limit',
  );
  const limits: Record<Role, Money | null> = { cashier: 0, supervisor: 0, manager: 0 };
  for (const { role, amount } of rows) limits[role] = amount;
  return limits;
}

export async function setStockLimits(sql: Writer, limits: Record<Role, Money | null>): Promise<void> {
  for (const [role, amount] of Object.entries(limits)) {
    await sql.query('update role_stock_limit set amount = $2 where role = $1', [role, amount]);
  }
}

/** How much each role refunds alone; `null` is without a limit. */
export async function setRefundLimits(sql: Writer, limits: Record<Role, Money | null>): Promise<void> {
  for (const [role, amount] of Object.entries(limits)) {
    await sql.query('update role_refund_limit set amount = $2 where role = $1', [role, amount]);
  }
}

import type { PartnerMonth } from '../../contract/relay.ts';
import type { Money } from '../../core/money.ts';
import type { PromiseKind } from '../../core/promises/promiseNumber.ts';
import { iso } from '../clock.ts';
import type { Reader, Writer } from '../db/database.ts';

/**
 * What is owed to partners: their parts of what they delivered, less what they owe for what they passed to the shop,
 * or were freed of. $1 is the shop's time zone.
 */
const OWED = `select partner_id, promise_id, true as delivered, part as amount, delivered_at as at, settlement_id,
    id as try_id, null::bigint as move_id
  from relay_try where state = 'delivered'
  union all
  select partner_id, promise_id, false, -amount, at, settled.settlement_id, null, move.id
  from promise_move as move left join partner_settlement_move as settled on settled.move_id = move.id
  where partner_id is not null`;
const MONTH = `to_char(owed.at at time zone $1, 'YYYY-MM')`;

/** What is owed to partners by month, or was paid, the latest first. */
export async function partnerMonths(sql: Reader, timezone: string): Promise<PartnerMonth[]> {
  const rows = await sql.query<PartnerMonth>(
    `with owed as (${OWED})
     select owed.partner_id as "partnerId", partner.name as partner, ${MONTH} as month,
            (count(*) filter (where delivered))::integer as delivered,
            count(distinct promise_id) filter (where not delivered)::integer as passed,
            sum(owed.amount)::bigint as amount, settled.at as "settledAt"
     from owed join partner on partner.id = owed.partner_id
     left join partner_settlement as settled on settled.id = settlement_id
     group by 1, 2, 3, settled.id, settled.at order by 3 desc, 2, settled.at nulls first limit 500`,
    [timezone],
  );
  return rows.map((row) => ({ ...row, settledAt: row.settledAt && iso(row.settledAt) }));
}

/** One thing that a partner delivered, or passed to the shop: then what it owes stands below zero. */
export interface OwedRow {
  kind: PromiseKind;
  count: number;
  partner: string;
  code: string;
  day: string;
  recipient: string;
  goods: string;
  total: Money;
  amount: Money;
  at: string;
  settledAt: string | null;
}

/** Everything that partners are owed, or owe, of a month. @param month `YYYY-MM` */
export async function owedIn(sql: Reader, month: string, timezone: string): Promise<OwedRow[]> {
  const rows = await sql.query<OwedRow>(
    `with owed as (${OWED})
     select promise.kind, promise.number as count, partner.name as partner, partner.code,
            coalesce(relay_try.day, partner_order.day)::text as day,
            coalesce(relay.recipient, handover.recipient) as recipient,
            coalesce(relay.goods, partner_order.goods) as goods, promise.total, owed.amount, owed.at,
            settled.at as "settledAt"
     from owed join partner on partner.id = owed.partner_id join promise on promise.id = owed.promise_id
     left join relay_try on relay_try.id = try_id left join relay on relay.promise_id = relay_try.promise_id
     left join partner_order on partner_order.promise_id = promise.id
     left join order_handover as handover on handover.promise_id = promise.id
     left join partner_settlement as settled on settled.id = owed.settlement_id
     where ${MONTH} = $2 order by partner.name, owed.at, promise.number`,
    [timezone, month],
  );
  return rows.map((row) => ({ ...row, at: iso(row.at), settledAt: row.settledAt && iso(row.settledAt) }));
}

/**
 * Settles a month with a partner. @returns what it comes to, below zero where the partner has paid; nothing where
 * nothing is open
 */
export async function settleMonth(
  sql: Writer,
  settled: { id: string; partnerId: number; month: string; timezone: string; staffId: number; at: Date },
): Promise<Money | null> {
  const { id, partnerId, month, timezone, staffId, at } = settled;
  await sql.query('select 1 from partner where id = $1 for update', [partnerId]);
  const open = await sql.query<{ tryId: string | null; moveId: number | null; amount: Money }>(
    `with owed as (${OWED})
     select try_id as "tryId", move_id as "moveId", amount from owed
     where partner_id = $2 and settlement_id is null and ${MONTH} = $3`,
    [timezone, partnerId, month],
  );
  if (open.length === 0) return null;
  const amount = open.reduce((sum, one) => sum + one.amount, 0);
  await sql.query(
    'insert into partner_settlement (id, partner_id, month, amount, at, staff_id) values ($1, $2, $3, $4, $5, $6)',
    [id, partnerId, `${month}-01`, amount, at.toISOString(), staffId],
  );
  await sql.query('update relay_try set settlement_id = $1 where id = any ($2::uuid[])', [
    id,
    open.flatMap(({ tryId }) => tryId ?? []),
  ]);
  await sql.query(
    'insert into partner_settlement_move (move_id, settlement_id) select unnest($2::bigint[]), $1',
    [id, open.flatMap(({ moveId }) => moveId ?? [])],
  );
  return amount;
}

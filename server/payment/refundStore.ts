import type { TenderKind } from '../../core/payment/tenderKinds.ts';
import { one, type Reader } from '../db/database.ts';

/** A payment of a sale with what may still go back along it. */
export interface PaidRow {
  saleId: string;
  position: number;
  kind: TenderKind;
  typeId: number;
  name: string;
  left: number;
  storedValueId: number | null;
  accountId: number | null;
  terminalId: number | null;
  token: string | null;
  /** Whether the card or its terminal takes money back. */
  open: boolean;
}

/** Whether another basket is giving money back for goods of a sale just now. */
export async function refundUnderWay(sql: Reader, saleId: string, basketId: string | null): Promise<boolean> {
  const rows = await sql.query<{ busy: boolean }>('select refund_under_way($1, $2) as busy', [
    saleId,
    basketId,
  ]);
  return one(rows).busy;
}

/** Payments of sales that goods come back from, oldest first. */
export function paidTendersOf(sql: Reader, saleIds: readonly string[]): Promise<PaidRow[]> {
  return sql.query<PaidRow>(
    `select tender.sale_id as "saleId", tender.position, coalesce(was.kind, tender.kind) as kind,
            coalesce(was.id, tender.type_id) as "typeId", coalesce(was.name, tender.name) as name,
            rest.amount as left, tender.stored_value_id as "storedValueId",
            coalesce(charged.moved_to, tender.account_id) as "accountId", payment_tender.terminal_id as "terminalId",
              payment_tender.token,
            case tender.kind
              when 'card' then payment_tender.token is not null and coalesce(terminal.active, false)
              when 'account' then true
              when 'stored-value' then value.state <> 'frozen' and value.moved_to is null
              else false end as open
     from refunds_left($1::uuid[]) as rest
     join tender on tender.sale_id = rest.sale_id and tender.position = rest.position
     join sale on sale.id = tender.sale_id
     -- What was recorded as another means than it was goes back by what it was.
     left join tender_correction as corrected on corrected.sale_id = tender.sale_id
       and corrected.position = tender.position
     left join tender_type as was on was.id = corrected.to_type
     left join payment_tender on payment_tender.id = tender.payment_tender_id
     left join terminal on terminal.id = payment_tender.terminal_id
     left join stored_value as value on value.id = tender.stored_value_id
     left join account as charged on charged.id = tender.account_id
     order by sale.finished_at, tender.position`,
    [saleIds],
  );
}

import type { AfterSaleSettings } from '../../contract/setup.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** What the shop has decided about returns and the end of the shift. */
export async function readAfterSale(sql: Reader): Promise<AfterSaleSettings> {
  return one(
    await sql.query<AfterSaleSettings>(
      `select return_days as "returnDays", no_receipt_days as "noReceiptDays", no_receipt_warning as "noReceiptWarning",
              refund_rest as "refundRest", drop_above as "dropAbove", blind_count as "blindCount",
              open_as_left as "openAsLeft", count_as_total as "countAsTotal",
              short_limit as "shortLimit", managers_mail as "managersMail",
              (select json_object_agg(role, amount) from role_refund_limit) as "refundLimits"
       from shop`,
    ),
  );
}

export async function putAfterSale(
  sql: Writer,
  settings: Omit<AfterSaleSettings, 'refundLimits'>,
): Promise<void> {
  await sql.query(
    `update shop set return_days = $1, no_receipt_days = $2, no_receipt_warning = $3, refund_rest = $4, drop_above = $5,
       blind_count = $6, short_limit = $7, managers_mail = $8, open_as_left = $9, count_as_total = $10`,
    [
      settings.returnDays,
      settings.noReceiptDays,
      settings.noReceiptWarning,
      settings.refundRest,
      settings.dropAbove,
      settings.blindCount,
      settings.shortLimit,
      settings.managersMail,
      settings.openAsLeft,
      settings.countAsTotal,
    ],
  );
}

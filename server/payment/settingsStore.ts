import type { NewTenderType, PaymentSettings } from '../../contract/payment.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** How the shop takes money, as Setup shows it. */
export async function readPaymentSettings(sql: Reader): Promise<PaymentSettings> {
  return one(
    await sql.query<PaymentSettings>(
      `select round_up_step as "roundUpStep", coalesce((select name from fund where active
        order by id limit 1), '') as fund,
              tip_rates as "tipRates", cash_rounding as "cashRounding", gift_card_months as "giftCardMonths",
              dormant_months as "dormantMonths" from shop`,
    ),
  );
}

/** Changes how the shop takes money. Another fund takes the place of the one before, which stays on old receipts. */
export async function putPaymentSettings(sql: Writer, settings: PaymentSettings): Promise<void> {
  await sql.query(
    `update shop set round_up_step = $1, tip_rates = $2, cash_rounding = $3, gift_card_months = $4,
      dormant_months = $5`,
    [
      settings.roundUpStep,
      settings.tipRates,
      settings.cashRounding,
      settings.giftCardMonths,
      settings.dormantMonths,
    ],
  );
  await sql.query('update fund set active = false where name <> $1', [settings.fund]);
  if (settings.fund) {
    await sql.query('insert into fund (name) values ($1) on conflict (name) do update set active = true', [
      settings.fund,
    ]);
  }
}

export async function addTenderType(sql: Writer, type: NewTenderType): Promise<number> {
  const rows = await sql.query<{ id: number }>(
    `insert into tender_type (name, kind, position, active, reference, counted, opens_drawer, foreign_currency,
      foreign_rate)
     values ($1, $2, (select coalesce(max(position), 0) + 1 from tender_type), $3, $4, $5, $6, $7, $8) returning id`,
    [
      type.name,
      type.kind,
      type.active,
      type.reference,
      type.counted,
      type.opensDrawer,
      type.foreignCurrency || null,
      type.foreignRate,
    ],
  );
  return one(rows).id;
}

/** Changes a means of payment; what it is stays. */
export async function changeTenderType(sql: Writer, id: number, type: NewTenderType): Promise<void> {
  await sql.query(
    `update tender_type set name = $2, active = $3, reference = $4, counted = $5, opens_drawer = $6,
       foreign_currency = $7, foreign_rate = $8 where id = $1`,
    [
      id,
      type.name,
      type.active,
      type.reference,
      type.counted,
      type.opensDrawer,
      type.foreignCurrency || null,
      type.foreignRate,
    ],
  );
}

/** Puts the means of payment in an order, which is also the order of their keys. */
export async function orderTenderTypes(sql: Writer, ids: readonly number[]): Promise<void> {
  await sql.query(
    `update tender_type set position = place from unnest($1::integer[]) with ordinality as listed (id, place)
     where tender_type.id = listed.id`,
    [ids],
  );
}

export async function addTerminal(sql: Writer, serial: string, name: string): Promise<number> {
  const rows = await sql.query<{ id: number }>(
    `insert into terminal (serial, name) values ($1, $2)
     on conflict (serial) do update set name = excluded.name, active = true returning id`,
    [serial, name],
  );
  return one(rows).id;
}

export async function offerTerminal(
  sql: Writer,
  tillId: number,
  terminalId: number,
  offered: boolean,
): Promise<void> {
  if (offered) {
    await sql.query(
      `insert into till_terminal (till_id, terminal_id, position)
       values ($1, $2, (select coalesce(max(position), 0) + 1 from till_terminal
         where till_id = $1)) on conflict do nothing`,
      [tillId, terminalId],
    );
  } else {
    await sql.query('delete from till_terminal where till_id = $1 and terminal_id = $2', [
      tillId,
      terminalId,
    ]);
  }
}

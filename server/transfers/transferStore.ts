import type { SendableItem, TransferState, TransferView, WantedTransfer } from '../../contract/transfers.ts';
import type { LookUp } from '../../contract/goods.ts';
import { spellings } from '../../core/goods/codes.ts';
import { one, type Reader, type Writer } from '../db/database.ts';
import { asking, countOf, typedNumber, type Ask } from '../db/asked.ts';
import { says } from '../db/words.ts';
import { itemFits } from '../goods/listStore.ts';
import { itemsMeant } from '../goods/meantStore.ts';

const FROM = `from stock_transfer as sent join place as home on home.id = from_place
  join place as away on away.id = to_place`;

/** Which transfers are meant: one of them, or those whose goods, places, words or number are looked for. */
function conditionOf({ id, find = '' }: { id?: number; find?: string }, ask: Ask): string {
  if (id !== undefined) return `sent.id = ${ask(id)}`;
  if (find === '') return 'true';
  const [number, goods] = [typedNumber(find), itemFits(find, ask)];
  return [
    says("concat_ws(' ', home.name, '→', away.name, words)", find, ask),
    number !== undefined && `sent.id = ${ask(number)}`,
    goods &&
      `sent.id in (select transfer_id from stock_transfer_line as line join item on item.id = line.item_id
        where ${goods})`,
  ]
    .filter(Boolean)
    .join(' or ');
}

/** Transfers that are meant, those that are open first, then the last ones that are not. */
export function listTransfers(
  sql: Reader,
  which: { id?: number; find?: string },
  { most, from }: { most: number; from: number },
): Promise<TransferView[]> {
  const { given, ask } = asking();
  return sql.query<TransferView>(
    `select sent.id, version, state, from_place as "fromPlace", home.name as "from", to_place as "toPlace",
      away.name as "to",
       words, asked_at as "askedAt", staff.name as "askedBy", sent_at as "sentAt", arrived_at as "arrivedAt",
       (select json_agg(json_build_object('itemId', item.id, 'number', item.number, 'name', item.name, 'unit', unit,
          'decimals', decimals, 'quantity', line.quantity, 'arrived', arrived, 'serials', line.serials,
          'there', coalesce(level.quantity - level.set_aside, 0)) order by position)
        from stock_transfer_line as line join item on item.id = line.item_id
        left join stock_level as level on level.item_id = item.id and level.place_id = sent.from_place
        where transfer_id = sent.id) as lines
     ${FROM} join staff on staff.id = asked_by
     where ${conditionOf(which, ask)}
     order by state in ('asked', 'sent') desc, sent.id desc limit ${ask(most)} offset ${ask(from)}`,
    given,
  );
}

/** How many fit what is looked for. */
export const countTransfers = (sql: Reader, find: string): Promise<number> =>
  countOf(sql, FROM, (ask) => conditionOf({ find }, ask));

export async function addTransfer(
  sql: Writer,
  { fromPlace, toPlace, words, lines }: WantedTransfer,
  { staffId, at }: { staffId: number; at: Date },
): Promise<number> {
  const { id } = one(
    await sql.query<{ id: number }>(
      `insert into stock_transfer (from_place, to_place, state, words, asked_at, asked_by)
       values ($1, $2, 'asked', $3, $4, $5) returning id`,
      [fromPlace, toPlace, words, at.toISOString(), staffId],
    ),
  );
  await sql.query(
    `insert into stock_transfer_line (transfer_id, position, item_id, quantity, serials)
     select $1, nth, "itemId", quantity, serials
     from rows from (jsonb_to_recordset($2) as ("itemId" integer, quantity bigint, serials jsonb))
       with ordinality as line ("itemId", quantity, serials, nth)`,
    [id, JSON.stringify(lines)],
  );
  return id;
}

/** A transfer that goes a step on, held until that is done. */
export async function holdTransfer(
  sql: Writer,
  id: number,
): Promise<{ state: TransferState; version: number; fromPlace: number; toPlace: number } | undefined> {
  const [row] = await sql.query<{
    state: TransferState;
    version: number;
    fromPlace: number;
    toPlace: number;
  }>(
    `select state, version, from_place as "fromPlace", to_place as "toPlace" from stock_transfer
      where id = $1 for update`,
    [id],
  );
  return row;
}

interface By {
  staffId: number;
  at: Date;
}

export async function send(sql: Writer, id: number, { staffId, at }: By): Promise<void> {
  await sql.query('select send_transfer($1, $2, $3)', [id, at.toISOString(), staffId]);
}

/** @param came what came of each line, in their order */
export async function takeIn(
  sql: Writer,
  id: number,
  came: readonly number[],
  { staffId, at }: By,
): Promise<void> {
  await sql.query('select take_in_transfer($1, $2, $3, $4)', [
    id,
    JSON.stringify(came.map((quantity, nth) => ({ position: nth + 1, quantity }))),
    at.toISOString(),
    staffId,
  ]);
}

export async function cancel(sql: Writer, id: number): Promise<void> {
  await sql.query("update stock_transfer set state = 'cancelled', version = version + 1 where id = $1", [id]);
}

/** Units of an item that lie at a place and are free. */
export async function freeUnits(
  sql: Writer,
  itemId: number,
  placeId: number,
  serials: readonly string[],
): Promise<string[]> {
  const rows = await sql.query<{ serial: string }>(
    `select serial from serial where item_id = $1 and place_id = $2 and sale_id is null and promise_id is null
       and serial = any ($3::text[])`,
    [itemId, placeId, serials],
  );
  return rows.map(({ serial }) => serial);
}

/** Items that are looked for, by a serial number, too, as they can be sent; nothing where nothing is asked. */
export async function sendableItems(
  sql: Reader,
  placeId: number,
  { find, code }: LookUp,
): Promise<SendableItem[]> {
  const asked = code || find;
  const { given, ask } = asking(placeId, asked.trim(), spellings(asked));
  const words = itemFits(code ? '' : find, ask);
  const exactly = 'meant.place is not null or unit.serial is not null';
  if (!code && words === null) return [];
  return sql.query<SendableItem>(
    `select item.id as "itemId", item.number, item.name, unit, decimals, serials, unit.serial as serial,
       coalesce(level.quantity - level.set_aside, 0)::bigint as there
     from item left join stock_level as level on level.item_id = item.id and level.place_id = $1
       left join (select id, min(place) as place from (${itemsMeant('$3')}) as fits group by id) as meant
         on meant.id = item.id
       left join serial as unit on unit.item_id = item.id and upper(unit.serial) = upper($2)
     where item.kind = 'goods' and item.stocked and (${code ? exactly : `${exactly} or ${words}`})
     order by meant.place nulls last, unit.serial nulls last, item.name limit 12`,
    given,
  );
}

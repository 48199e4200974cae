import { MOST_MOVES, type StockMoveRow, type StockMovesQuery } from '../../contract/stockMoves.ts';
import { asking } from '../db/asked.ts';
import { one, type Parameter, type Reader } from '../db/database.ts';
import { itemFits } from './listStore.ts';

/** What is asked for, with its days as points in time. @property until the first moment that is not asked for */
export interface AskedMoves extends Omit<StockMovesQuery, 'from' | 'to' | 'page'> {
  since: string | null;
  until: string | null;
}

/** @returns a condition on a move, and one on the places whose moves are looked through */
function conditions(asked: AskedMoves): { where: string; places: string; given: Parameter[] } {
  const { given, ask } = asking();
  const parts = ['true'];
  const fits = itemFits(asked.find, ask);
  if (fits) parts.push(`move.item_id in (select item.id from item where ${fits})`);
  const place = asked.place ? ask(asked.place) : null;
  if (place) parts.push(`move.place_id = ${place}`);
  if (asked.reason) parts.push(`move.reason = ${ask(asked.reason)}`);
  if (asked.supplier) parts.push(`move.subject = ${ask(`supplier:${asked.supplier}`)}`);
  if (asked.staff) parts.push(`coalesce(move.staff_id, sale.staff_id) = ${ask(asked.staff)}`);
  if (asked.since) parts.push(`move.at >= ${ask(asked.since)}`);
  if (asked.until) parts.push(`move.at < ${ask(asked.until)}`);
  return { where: parts.join(' and '), places: place ? `place.id = ${place}` : 'true', given };
}

const FROM = 'from stock_move as move left join sale on sale.id = move.sale_id';

/** How many moves are asked for, as far as they are counted. */
export async function countMoves(sql: Reader, asked: AskedMoves): Promise<number> {
  const { where, given } = conditions(asked);
  return one(
    await sql.query<{ count: number }>(
      `select count(*)::integer as count from (select 1 ${FROM} where ${where} limit ${MOST_MOVES}) as found`,
      given,
    ),
  ).count;
}

/**
 * Ids of moves, newest first. Those of each place are kept in that order: where only days narrow them down, the newest
 * of every place are among them; else all that fit are gathered.
 */
function newestMoves(asked: AskedMoves, { most, offset }: { most: number; offset: number }) {
  const { where, places, given } = conditions(asked);
  const onlyDays = !asked.find.trim() && !asked.reason && !asked.supplier && !asked.staff;
  const newest = (of: string, count: number) => `order by ${of}.at desc, ${of}.id desc limit ${count}`;
  const ids = onlyDays
    ? `select newest.id from place cross join lateral (
         select move.id, move.at ${FROM} where move.place_id = place.id and ${where} ${newest('move', most + offset)}
       ) as newest where ${places} ${newest('newest', most)}`
    : `select move.id ${FROM} where ${where} ${newest('move', most)}`;
  return { ids: `${ids} offset ${offset}`, given };
}

/** Moves that are asked for, newest first. */
export function findMoves(
  sql: Reader,
  asked: AskedMoves,
  part: { most: number; offset: number },
): Promise<StockMoveRow[]> {
  const { ids, given } = newestMoves(asked, part);
  return sql.query<StockMoveRow>(
    `with found as materialized (${ids})
     select move.id, move.at, place.name as place, item.id as "itemId", item.number, item.name, item.unit,
       move.quantity,
       move.reason, move.words, coalesce(staff.name, seller.name, '') as by,
       coalesce(approver.name, '') as "approvedBy", move.cost,
       case when sale.id is not null then json_build_object('kind', 'sale', 'id', sale.id,
              'number', receipt_number(till.number, sale.number))
            when move.promise_id is not null then json_build_object('kind', 'promise', 'id', move.promise_id)
            when move.transfer_id is not null then json_build_object('kind', 'transfer', 'id', move.transfer_id)
            when receipt.id is not null then json_build_object('kind', 'delivery', 'id', receipt.id, 'number',
              receipt.number)
            when back.id is not null then json_build_object('kind', 'supplier-return', 'id', back.receipt_id,
              'number', back.number)
            when counted.id is not null then json_build_object('kind', 'count', 'id', counted.id, 'number',
              counted.number)
       end as origin
     from found join stock_move as move using (id) join item on item.id = move.item_id
       join place on place.id = move.place_id
     left join sale on sale.id = move.sale_id left join till on till.id = sale.till_id
     left join staff on staff.id = move.staff_id left join staff as seller on seller.id = sale.staff_id
     left join goods_receipt as receipt on receipt.event_id = move.event_id
     left join supplier_return as back on back.event_id = move.event_id
     left join stock_count as counted on counted.event_id = move.event_id
     left join stock_approval as approval on approval.event_id = move.event_id
     left join countersign on countersign.id = approval.countersign_id
     left join staff as approver on approver.id = countersign.granted_by
     order by move.at desc, move.id desc`,
    given,
  );
}

export const suppliersByName = (sql: Reader): Promise<{ id: number; name: string }[]> =>
  sql.query('select id, name from supplier order by name');

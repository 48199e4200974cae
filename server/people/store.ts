import type { CustomerPanel, FoundCustomer, NewCustomer } from '../../contract/people.ts';
import { customerWords } from '../../core/people/customer.ts';
import { customerUses } from '../offers/offerStore.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

const FOUND = `customer.id, customer.name, customer.company, customer.phone, customer.mail,
  coalesce((select json_agg(held.name order by held.name) from customer_membership
            join customer_group as held on held.id = group_id
            where customer_id = customer.id), '[]'::json) as groups`;

/** Customers of whose words each begins with one that is searched. */
export function searchCustomers(
  sql: Reader,
  words: readonly string[],
  most: number,
): Promise<FoundCustomer[]> {
  const patterns = words.map((word) => `% ${word.replace(/[\\%_]/g, '\\$&')}%`);
  return sql.query<FoundCustomer>(
    `select ${FOUND} from customer where words like all ($1::text[]) order by customer.name, customer.id limit $2`,
    [patterns, most],
  );
}

/** Who has a card, and whether the card still counts. */
export async function customerOfCard(
  sql: Reader,
  code: string,
): Promise<{ customerId: number; name: string; replaced: boolean } | undefined> {
  const [row] = await sql.query<{ customerId: number; name: string; replaced: boolean }>(
    `select customer_id as "customerId", customer.name, replaced_at is not null as replaced
     from customer_card join customer on customer.id = customer_id where code = $1`,
    [code],
  );
  return row;
}

export async function addCustomer(
  sql: Writer,
  customer: Omit<NewCustomer, 'anyway'>,
  at: Date,
): Promise<number> {
  const { name, company, phone, mail, birthMonth, birthDay, note } = customer;
  const rows = await sql.query<{ id: number }>(
    `insert into customer (name, company, phone, mail, birth_month, birth_day, note, words, added_at)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9) returning id`,
    [name, company, phone, mail, birthMonth, birthDay, note, customerWords(customer), at.toISOString()],
  );
  return one(rows).id;
}

/** Points that a customer has from before. */
export async function addPoints(sql: Writer, customerId: number, points: number, at: Date): Promise<void> {
  await sql.query('update customer set points = points + $2 where id = $1', [customerId, points]);
  await sql.query(
    "insert into points_move (customer_id, amount, reason, at) values ($1, $2, 'opening', $3)",
    [customerId, points, at.toISOString()],
  );
}

/** What the Counter shows of a customer but for who they may be mistaken for. */
export async function customerPanel(
  sql: Reader,
  id: number,
  visits: number,
): Promise<Omit<CustomerPanel, 'promises'> | undefined> {
  const [row] = await sql.query<{ panel: Omit<CustomerPanel, 'promises'> }>(
    `select json_build_object(
       'id', customer.id, 'name', customer.name, 'company', company, 'phone', phone, 'mail', mail,
       'birthMonth', birth_month, 'birthDay', birth_day, 'note', note,
       'groups', coalesce((select json_agg(held.name order by held.name) from customer_membership
          join customer_group as held on held.id = group_id where customer_id = customer.id), '[]'::json),
       'owes', coalesce((select balance from account_balance
          where account = 'receivable' and subject = 'customer:' || customer.id), 0),
       'credit', 0 - coalesce((select balance from account_balance
          where account = 'store-credit' and subject = 'customer:' || customer.id), 0),
       'visitCount', (select count(*) from sale where customer_id = customer.id),
       'visits', coalesce((select json_agg(json_build_object(
           'saleId', visit.id, 'number', receipt_number(visit.till, visit.number),
           'finishedAt', visit.finished_at, 'total', visit.total,
           'lines', coalesce((select json_agg(json_build_object(
                'itemId', item_id, 'name', name, 'quantity', quantity) order by position)
              from sale_line where sale_id = visit.id and coalesce(promise_part, 'goods') = 'goods'), '[]'::json)) order by visit.finished_at desc)
         from (select sale.*, till.number as till from sale join till on till.id = sale.till_id
               where sale.customer_id = customer.id order by finished_at desc limit $2) as visit), '[]'::json),
       'points', customer.points,
       'offerUses', ${customerUses('$1')},
       'groupPrices', coalesce((select json_agg(json_build_object(
           'itemId', item_id, 'price', price, 'group', held.name))
         from customer_membership join group_price using (group_id) join customer_group as held on held.id = group_id
         where customer_id = customer.id), '[]'::json)) as panel
     from customer where id = $1`,
    [id, visits],
  );
  return row?.panel;
}

export function listGroups(sql: Reader): Promise<{ id: number; name: string }[]> {
  return sql.query('select id, name from customer_group order by name');
}

export async function addGroup(sql: Writer, name: string): Promise<number> {
  const rows = await sql.query<{ id: number }>('insert into customer_group (name) values ($1) returning id', [
    name,
  ]);
  return one(rows).id;
}

export async function joinGroup(sql: Writer, customerId: number, groupId: number): Promise<void> {
  await sql.query(
    'insert into customer_membership (customer_id, group_id) values ($1, $2) on conflict do nothing',
    [customerId, groupId],
  );
}

export async function addCard(sql: Writer, customerId: number, code: string): Promise<void> {
  await sql.query('insert into customer_card (code, customer_id) values ($1, $2)', [code, customerId]);
}

/** A lost card's code means nobody any more. */
export async function replaceCard(sql: Writer, code: string, at: Date): Promise<void> {
  await sql.query('update customer_card set replaced_at = $2 where code = $1', [code, at.toISOString()]);
}

export async function putGroupPrice(
  sql: Writer,
  groupId: number,
  itemId: number,
  price: number,
): Promise<void> {
  await sql.query(
    `insert into group_price (group_id, item_id, price) values ($1, $2, $3)
     on conflict (group_id, item_id) do update set price = excluded.price`,
    [groupId, itemId, price],
  );
}

import type { Writer } from '../db/database.ts';

/** What somebody is called in old lists once they are forgotten. */
const NOBODY = 'Forgotten customer';

/** Takes away everything that says who somebody is; what was sold, promised and booked stays. */
export async function forgetPerson(sql: Writer, id: number, at: Date): Promise<void> {
  const [person] = await sql.query<{ ids: number[]; mails: string[] }>(
    `select array_agg(id) as ids, array_remove(array_agg(distinct mail_lower) || array_agg(distinct phone), '') as mails
     from customer where id = any (one_person($1))`,
    [id],
  );
  const { ids = [id], mails = [] } = person ?? {};
  for (const table of ['card', 'address', 'tag', 'membership', 'change'])
    await sql.query(`delete from customer_${table} where customer_id = any ($1::integer[])`, [ids]);
  await sql.query("select drop_points(id, 'forgotten', $2) from unnest($1::integer[]) as id", [
    ids,
    at.toISOString(),
  ]);
  await sql.query(
    `update card_on_file set token = '', brand = '', last_four = '', dropped_at = coalesce(dropped_at, $2)
     where customer_id = any ($1::integer[])`,
    [ids, at.toISOString()],
  );
  await sql.query('update stored_value set mail = $2 where customer_id = any ($1::integer[])', [ids, '']);
  await sql.query(
    `update outbox set recipient = 'forgotten', state = case state when 'waiting' then 'failed' else state end
     where lower(recipient) = any ($1::text[]) or recipient = any ($1::text[])`,
    [mails],
  );
  await forgetAccounts(sql, ids);
  await forgetPromises(sql, ids);
  // Answers that were given about them are kept for repeats only.
  await sql.query(
    `update idempotency set answer = '{}' where route like '%/api/people/%'
      and (answer->>'id')::text = any ($1::text[])`,
    [ids.map(String)],
  );
  await sql.query(
    `update customer set name = $2, company = '', phone = '', mail = '', birth_month = null, birth_day = null,
      note = '', news = false, news_on = null, news_how = '', words = '', sort_name = '', receipt_by = 'print',
       version = version + 1, forgotten_at = $3 where id = any ($1::integer[])`,
    [ids, NOBODY, at.toISOString()],
  );
}

/**
 * Nothing is open on their accounts any more; what somebody wrote on them goes, and they buy on no account of others.
 */
async function forgetAccounts(sql: Writer, ids: readonly number[]): Promise<void> {
  const theirs = 'account_id in (select id from account where customer_id = any ($1::integer[]))';
  await sql.query(
    `update bank_line set payer = '', words = 'forgotten ' || id
     where item_id in (select id from account_item where ${theirs})`,
    [ids],
  );
  await sql.query(`update account_item set words = '', reference = '' where ${theirs}`, [ids]);
  await sql.query(`delete from account_buyer where customer_id = any ($1::integer[]) or ${theirs}`, [ids]);
  await sql.query('update account set blocked = true where customer_id = any ($1::integer[])', [ids]);
}

/**
 * What was promised to them is over: who got it, where and with which words is known no more; its number still finds
 * it.
 */
async function forgetPromises(sql: Writer, ids: readonly number[]): Promise<void> {
  const theirs = 'promise_id in (select id from promise where customer_id = any ($1::integer[]))';
  await sql.query(
    `update order_handover set collector = '', recipient = case recipient when '' then '' else $2 end, street = '',
       postcode = '', city = '', phone = '', wishes = '' where ${theirs}`,
    [ids, NOBODY],
  );
  await sql.query(
    `update relay set recipient = $2, street = '', postcode = '', city = '', phone = '', wishes = '', card = ''
     where ${theirs}`,
    [ids, NOBODY],
  );
  await sql.query(
    `update promise set words = coalesce(substring(words from '^ [^ ]+ [^ ]+'), ' '), note = ''
      where customer_id = any ($1::integer[])`,
    [ids],
  );
}

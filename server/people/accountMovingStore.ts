import type { Writer } from '../db/database.ts';

/** Whoever buys for others does so under the record that stays. */
export async function moveBuyer(sql: Writer, goes: number, stays: number): Promise<void> {
  await sql.query(
    `insert into account_buyer (account_id, customer_id, most)
     select account_id, $2, most from account_buyer join account on account.id = account_id
     where account_buyer.customer_id = $1 and account.customer_id not in ($1, $2) on conflict do nothing`,
    [goes, stays],
  );
  await sql.query(
    `delete from account_buyer using account where account.id = account_id
       and (account_buyer.customer_id = $1 or account_buyer.customer_id = $2 and account.customer_id = $1)`,
    [goes, stays],
  );
}

/** An account is somebody else's from now on. */
export async function giveAccount(sql: Writer, accountId: number, customerId: number): Promise<void> {
  await sql.query('update account set customer_id = $2, version = version + 1 where id = $1', [
    accountId,
    customerId,
  ]);
}

/** Everything on one account goes onto another one; nothing more goes on the first. Both rows are locked. */
export async function emptyInto(sql: Writer, from: number, to: number): Promise<void> {
  for (const change of [
    'update account set moved_to = $2 where moved_to = $1',
    'update account_item set account_id = $2 where account_id = $1',
    `insert into account_buyer (account_id, customer_id, most)
       select $2, customer_id, most from account_buyer where account_id = $1 and customer_id <>
         (select customer_id from account where id = $2) on conflict do nothing`,
    'delete from account_buyer where account_id = $1 and $2::integer is not null',
    `update account set version = account.version + 1,
       balance = case account.id when $2 then account.balance + gone.balance else 0 end,
       blocked = account.blocked or account.id = $1,
       moved_to = case account.id when $1 then $2 else account.moved_to end
     from account as gone where gone.id = $1 and account.id in ($1, $2)`,
  ])
    await sql.query(change, [from, to]);
}

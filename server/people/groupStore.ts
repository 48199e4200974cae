import type { WantedGroup } from '../../contract/people.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** Groups by their names. */
export function listGroups(sql: Reader): Promise<{ id: number; name: string; fillsItself: boolean }[]> {
  return sql.query('select id, name, spent is not null as "fillsItself" from customer_group order by name');
}

export async function addGroup(sql: Writer, { name, rule }: WantedGroup): Promise<number> {
  const rows = await sql.query<{ id: number }>(
    'insert into customer_group (name, spent, months) values ($1, $2, $3) returning id',
    [name, rule?.spent ?? null, rule?.months ?? null],
  );
  return one(rows).id;
}

/** A group, held until the change of it is done. */
export async function takeGroup(
  sql: Writer,
  id: number,
): Promise<{ name: string; spent: number | null; months: number | null } | undefined> {
  const [row] = await sql.query<{ name: string; spent: number | null; months: number | null }>(
    'select name, spent, months from customer_group where id = $1 for update',
    [id],
  );
  return row;
}

/** Changes a group; whoever is in it is in it by its rule from now on, or by hand where it has none. */
export async function putGroup(sql: Writer, id: number, { name, rule }: WantedGroup): Promise<void> {
  await sql.query(
    'update customer_group set name = $2, spent = $3, months = $4, filled_on = null where id = $1',
    [id, name, rule?.spent ?? null, rule?.months ?? null],
  );
  await sql.query('update customer_membership set by_rule = $2 where group_id = $1', [id, rule !== null]);
  // Offers say the name of the group that they are for: tills read them again.
  await sql.query(
    'update offer_revision set revision = revision + 1 where exists (select 1 from offer_member where group_id = $1)',
    [id],
  );
}

export async function isGroupName(sql: Reader, name: string, except: number): Promise<boolean> {
  const rows = await sql.query('select 1 from customer_group where lower(name) = lower($1) and id <> $2', [
    name,
    except,
  ]);
  return rows.length > 0;
}

/** What stands on a group: offers, presets and prices that are for it. */
export async function usesOfGroup(
  sql: Reader,
  id: number,
): Promise<{ offers: string[]; presets: string[]; prices: number }> {
  return one(
    await sql.query(
      `select
         coalesce((select json_agg(name order by name) from offer_member join offer on offer.id = offer_id
           where group_id = $1), '[]'::json) as offers,
         coalesce((select json_agg(name order by name) from discount_preset
           where group_id = $1 and active), '[]'::json) as presets,
         (select count(*)::integer from group_price where group_id = $1) as prices`,
      [id],
    ),
  );
}

export async function dropGroup(sql: Writer, id: number): Promise<void> {
  await sql.query('update discount_preset set group_id = null where group_id = $1 and not active', [id]);
  await sql.query('delete from customer_membership where group_id = $1', [id]);
  await sql.query('delete from customer_group where id = $1', [id]);
}

export interface FillingGroup {
  id: number;
  name: string;
  spent: number;
  months: number;
}

/** Groups with a rule that was not followed on a day yet. */
export function groupsToFill(sql: Reader, today: string): Promise<FillingGroup[]> {
  return sql.query<FillingGroup>(
    `select id, name, spent, months from customer_group
     where spent is not null and (filled_on is null or filled_on < $1::date) order by id`,
    [today],
  );
}

/** Who came to a group or left it by its rule. */
export interface Moved {
  id: number;
  joined: boolean;
}

/** Puts into a group whoever has spent enough, and takes out who has not. @returns who came and went */
export async function fillGroup(sql: Writer, group: FillingGroup, today: string): Promise<Moved[]> {
  const moved = await sql.query<Moved>(
    `with fits as (
       select coalesce(customer.merged_into, customer.id) as id
       from standing_sale as sale join customer on customer.id = sale.customer_id
       where sale.business_date > ($4::date - make_interval(months => $3))::date and customer.forgotten_at is null
       group by 1 having sum(sale.total) >= $2),
     left_it as (
       delete from customer_membership where group_id = $1 and by_rule and customer_id not in (select id from fits)
       returning customer_id),
     joined as (
       insert into customer_membership (customer_id, group_id, by_rule) select id, $1, true from fits
       on conflict do nothing returning customer_id)
     select customer_id as id, true as joined from joined union all select customer_id, false from left_it`,
    [group.id, group.spent, group.months, today],
  );
  await sql.query('update customer_group set filled_on = $2 where id = $1', [group.id, today]);
  return moved;
}

/** Keeps with many customers that a rule put them into a group or out of it. */
export async function noteMoved(sql: Writer, name: string, moved: readonly Moved[], at: Date): Promise<void> {
  await sql.query(
    `insert into customer_change (customer_id, at, what, was, became)
     select id, $2, 'Group by its rule', case when joined then '' else $3 end, case when joined then $3 else '' end
     from jsonb_to_recordset($1) as one (id integer, joined boolean)`,
    [JSON.stringify(moved), at.toISOString(), name],
  );
}

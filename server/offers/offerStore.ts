import type {
  FoundCode,
  KeptOffer,
  OfferCode,
  OfferCount,
  OfferDraft,
  OfferState,
} from '../../contract/offers.ts';
import type { ReturnWay } from '../../core/journal/returns.ts';
import { groupsOf, type Offer, type OfferGoods, type OfferRule } from '../../core/offers/offer.ts';
import { one, type Reader, type Writer } from '../db/database.ts';

/** A rule as it is stored: its goods stand beside it. */
type BareRule =
  | Omit<Extract<OfferRule, { goods: OfferGoods }>, 'goods'>
  | { kind: 'together'; groups: { count: number }[]; reward: object };

interface StoredGoods {
  rule: BareRule;
  goods: { group: number; itemId: number | null; category: string | null }[];
}

/** An offer as SQL builds it for a till. */
export type OfferRow = Omit<Offer, 'rule'> & StoredGoods;

/** An offer as SQL builds it for its editor. */
type KeptOfferRow = Omit<KeptOffer, 'rule'> & StoredGoods;

const OFFER_FIELDS = `
  'id', offer.id, 'name', offer.name, 'rule', offer.rule, 'combines', offer.combines,
  'conditions', json_build_object(
    'from', from_day, 'to', to_day, 'weekdays', weekdays,
    'hours', case when from_time is null then null else json_build_object('from', from_time, 'to', to_time) end,
    'placeIds', coalesce((select json_agg(place_id order by place_id) from offer_place
      where offer_id = offer.id), '[]'::json),
    'groups', coalesce((select json_agg(customer_group.name order by customer_group.name) from offer_member
      join customer_group on customer_group.id = group_id where offer_id = offer.id), '[]'::json),
    'minimum', minimum),
  'limits', json_build_object('perSale', per_sale, 'perCustomer', per_customer, 'total', in_total),
  'needs', needs, 'points', points,
  'goods', coalesce((select json_agg(json_build_object('group', group_number, 'itemId', item_id, 'category',
    category.name)
      order by group_number, item_id, category.name)
    from offer_goods left join category on category.id = category_id where offer_id = offer.id), '[]'::json)`;

/** One offer as a till needs it, as JSON; for statements that read `offer`. */
const OFFER_JSON = `json_build_object(${OFFER_FIELDS})`;

/** One offer with everything about it. */
const KEPT_OFFER_JSON = `json_build_object(${OFFER_FIELDS}, 'state', offer.state, 'onReturn', offer.on_return,
  'version', offer.version, 'by', coalesce((select staff.name from staff where staff.id = offer.changed_by), ''),
  'used', coalesce((select sum(uses) from offer_use where offer_id = offer.id), 0),
  'codes', (select count(*) from offer_code where offer_id = offer.id and withdrawn_at is null))`;

/** Offers in force and to come, as JSON. */
const LIVE_OFFERS = `coalesce((select json_agg(${OFFER_JSON} order by offer.id) from offer
  where state = 'live' and (to_day is null or to_day >= current_date - 1)), '[]'::json)`;

/** How far live offers with a limit in all are used, as JSON. @param at which parameter says what time it is */
export const liveCounts = (at: string): string => `coalesce((select json_agg(json_build_object(
    'offerId', offer.id,
    'used', coalesce((select sum(uses) from offer_use where offer_id = offer.id), 0),
    'claims', coalesce((select json_agg(json_build_object('basketId', basket_id, 'uses', uses)) from offer_claim
      where offer_id = offer.id and claim_stands(basket_id, at, ${at}::timestamptz)), '[]'::json)))
  from offer where state = 'live' and in_total is not null), '[]'::json)`;

/**
 * Uses of offers with a limit for each customer, as JSON, under whatever record of theirs.
 * @param customer which parameter names the customer
 */
export const customerUses = (customer: string): string => `coalesce((select json_agg(json_build_object(
    'offerId', counted.offer_id, 'uses', counted.uses))
  from (select offer_id, sum(uses) as uses from offer_use join offer on offer.id = offer_id
        where offer_use.customer_id = any (one_person(${customer})) and per_customer is not null
        group by offer_id) as counted),
        '[]'::json)`;

/** An offer with its goods put back into its rule. */
export function toOffer<Row extends OfferRow>({
  goods,
  rule,
  ...row
}: Row): Omit<Row, 'goods' | 'rule'> & Pick<Offer, 'rule'> {
  const goodsOf = (group: number): OfferGoods => {
    const mine = goods.filter((entry) => entry.group === group);
    return {
      itemIds: mine.flatMap(({ itemId }) => itemId ?? []),
      categories: mine.flatMap(({ category }) => category ?? []),
    };
  };
  const whole =
    'groups' in rule
      ? { ...rule, groups: rule.groups.map(({ count }, at) => ({ count, goods: goodsOf(at) })) }
      : { ...rule, goods: goodsOf(0) };
  return { ...row, rule: whole as OfferRule };
}

export async function liveOffers(sql: Reader): Promise<Offer[]> {
  const rows = await sql.query<{ offers: OfferRow[] }>(`select ${LIVE_OFFERS} as offers`);
  return one(rows).offers.map(toOffer);
}

/** An offer with how refunds for its goods are worked out. */
export interface ReturningOffer {
  offer: Offer;
  onReturn: ReturnWay;
}

/** The offers under which a sale was priced: those that reduced it, and others that have stood unchanged since. */
export async function offersOfSale(sql: Reader, saleId: string): Promise<ReturningOffer[]> {
  const rows = await sql.query<{ offer: OfferRow; onReturn: ReturnWay }>(
    `select ${OFFER_JSON} as offer, on_return as "onReturn" from offer, sale
     where sale.id = $1 and (
       offer.id in (select (record->>'offerId')::integer
         from sale_line cross join jsonb_array_elements(records) as record where sale_id = sale.id)
       or (state <> 'draft' and changed_at <= sale.finished_at))
     order by offer.id`,
    [saleId],
  );
  return rows.map(({ offer, onReturn }) => ({ offer: toOffer(offer), onReturn }));
}

export async function offerCounts(sql: Reader, at: Date): Promise<OfferCount[]> {
  const rows = await sql.query<{ counts: OfferCount[] }>(`select ${liveCounts('$1')} as counts`, [
    at.toISOString(),
  ]);
  return one(rows).counts;
}

/** Codes that open live offers any number of times. */
export async function openCodes(sql: Reader): Promise<string[]> {
  const rows = await sql.query<{ code: string }>(
    `select code from offer_code join offer on offer.id = offer_id
     where state = 'live' and not single and withdrawn_at is null order by code`,
  );
  return rows.map(({ code }) => code);
}

/** Every offer, those that apply first. */
export async function listOffers(sql: Reader): Promise<KeptOffer[]> {
  const rows = await sql.query<{ offer: KeptOfferRow }>(
    `select ${KEPT_OFFER_JSON} as offer from offer
     order by array_position(array['live', 'draft', 'ended'], state), offer.name, offer.id`,
  );
  return rows.map(({ offer }) => toOffer(offer));
}

export async function findOffer(sql: Reader, id: number): Promise<KeptOffer | undefined> {
  const [row] = await sql.query<{ offer: KeptOfferRow }>(
    `select ${KEPT_OFFER_JSON} as offer from offer where id = $1`,
    [id],
  );
  return row && toOffer(row.offer);
}

/** Whoever changes an offer next waits until this is stored. */
export async function lockOffer(sql: Writer, id: number): Promise<void> {
  await sql.query('select 1 from offer where id = $1 for update', [id]);
}

const COLUMNS = [
  'name',
  'rule',
  'combines',
  'from_day',
  'to_day',
  'weekdays',
  'from_time',
  'to_time',
  'minimum',
  'needs',
  'points',
  'per_sale',
  'per_customer',
  'in_total',
  'on_return',
  'changed_at',
  'changed_by',
] as const;

/** Keeps an offer. @param id of the offer that is changed, `null` for a new one, @returns its number */
export async function putOffer(
  sql: Writer,
  id: number | null,
  offer: OfferDraft,
  by: { staffId: number; at: Date },
): Promise<number> {
  const { name, rule, combines, conditions, limits, needs, points } = offer;
  const values = [
    name,
    JSON.stringify(bare(rule)),
    combines,
    conditions.from,
    conditions.to,
    conditions.weekdays,
    conditions.hours?.from ?? null,
    conditions.hours?.to ?? null,
    conditions.minimum,
    needs,
    points,
    limits.perSale,
    limits.perCustomer,
    limits.total,
    offer.onReturn ?? 'share',
    by.at.toISOString(),
    by.staffId,
  ];
  const places = COLUMNS.map((_, at) => `$${at + 1}`);
  const rows = await sql.query<{ id: number }>(
    id === null
      ? `insert into offer (${COLUMNS.join(', ')}) values (${places.join(', ')}) returning id`
      : `update offer set version = version + 1,
           ${COLUMNS.map((column, at) => `${column} = ${places[at] ?? ''}`).join(', ')}
         where id = $${COLUMNS.length + 1} returning id`,
    id === null ? values : [...values, id],
  );
  const kept = one(rows).id;
  for (const table of ['offer_goods', 'offer_place', 'offer_member'])
    await sql.query(`delete from ${table} where offer_id = $1`, [kept]);
  const goods = groupsOf(rule).flatMap((group, at) => [
    ...group.goods.itemIds.map((itemId) => ({ at, itemId, category: null })),
    ...group.goods.categories.map((category) => ({ at, itemId: null, category })),
  ]);
  await sql.query(
    `insert into offer_goods (offer_id, group_number, item_id, category_id)
     select distinct $1::integer, at, "itemId", category.id
     from jsonb_to_recordset($2::jsonb) as entry (at smallint, "itemId" integer, category text)
     left join category on category.name = entry.category`,
    [kept, JSON.stringify(goods)],
  );
  await sql.query('insert into offer_place select $1, unnest($2::integer[])', [kept, conditions.placeIds]);
  await sql.query(
    'insert into offer_member select $1, id from customer_group where name = any ($2::text[])',
    [kept, conditions.groups],
  );
  return kept;
}

function bare(rule: OfferRule): BareRule {
  if ('groups' in rule) return { ...rule, groups: rule.groups.map(({ count }) => ({ count })) };
  const { goods: _goods, ...rest } = rule;
  return rest;
}

/** Items and categories that an offer names and that the shop does not have. */
export async function unknownGoods(sql: Reader, rule: OfferRule): Promise<number> {
  const goods = groupsOf(rule).map((group) => group.goods);
  const itemIds = [...new Set(goods.flatMap((one) => one.itemIds))];
  const categories = [...new Set(goods.flatMap((one) => one.categories))];
  const [found] = await sql.query<{ count: number }>(
    `select (select count(*) from item where id = any ($1::integer[]))
          + (select count(*) from category where name = any ($2::text[])) as count`,
    [itemIds, categories],
  );
  return itemIds.length + categories.length - (found?.count ?? 0);
}

export async function setOfferState(sql: Writer, id: number, state: OfferState, at: Date): Promise<boolean> {
  const rows = await sql.query('update offer set state = $2, changed_at = $3 where id = $1 returning id', [
    id,
    state,
    at.toISOString(),
  ]);
  return rows.length > 0;
}

/** Another offer that is not over and has the name. */
export async function offerNamed(sql: Reader, name: string, but: number | null): Promise<boolean> {
  const rows = await sql.query(
    "select 1 from offer where name = $1 and state <> 'ended' and id is distinct from $2",
    [name, but],
  );
  return rows.length > 0;
}

export function offerCodes(sql: Reader, offerId: number): Promise<OfferCode[]> {
  return sql.query<OfferCode>(
    `select code, single, coalesce((select sum(uses) from offer_use
      where offer_use.code = offer_code.code), 0)::bigint as used
     from offer_code where offer_id = $1 and withdrawn_at is null order by single, made_at, code`,
    [offerId],
  );
}

/** Adds codes. @returns those that were free */
export async function addCodes(
  sql: Writer,
  offerId: number,
  codes: readonly string[],
  { single, at }: { single: boolean; at: Date },
): Promise<string[]> {
  const rows = await sql.query<{ code: string }>(
    `insert into offer_code (code, offer_id, single, made_at)
     select code, $2, $3, $4 from unnest($1::text[]) as code on conflict do nothing returning code`,
    [codes, offerId, single, at.toISOString()],
  );
  return rows.map(({ code }) => code);
}

export async function withdrawCode(sql: Writer, code: string, at: Date): Promise<void> {
  await sql.query('update offer_code set withdrawn_at = $2 where code = $1 and withdrawn_at is null', [
    code,
    at.toISOString(),
  ]);
}

/** A code that opens an offer, and whether it opens nothing any more; `undefined` where there is none. */
export async function findCode(
  sql: Reader,
  code: string,
): Promise<(FoundCode & { used: number; state: OfferState }) | undefined> {
  const [row] = await sql.query<FoundCode & { used: number; state: OfferState }>(
    `select code, offer_id as "offerId", offer.name as offer, single, offer.state,
            coalesce((select sum(uses) from offer_use where offer_use.code = offer_code.code), 0)::bigint as used
     from offer_code join offer on offer.id = offer_id where code = $1 and withdrawn_at is null`,
    [code.toUpperCase()],
  );
  return row;
}

/** What a basket holds of offers while it is being paid; what it held before is let go. */
export async function putClaims(
  sql: Writer,
  basketId: string,
  claims: readonly { offerId: number; code: string; uses: number }[],
  at: Date,
): Promise<void> {
  await sql.query('delete from offer_claim where basket_id = $1', [basketId]);
  await sql.query(
    `insert into offer_claim (basket_id, offer_id, code, uses, at)
     select $1, "offerId", code, uses, $3
     from jsonb_to_recordset($2::jsonb) as one ("offerId" integer, code text, uses integer)`,
    [basketId, JSON.stringify(claims), at.toISOString()],
  );
}

/** Lets go what a basket holds. @returns whether it held anything */
export async function dropClaims(sql: Writer, basketId: string): Promise<boolean> {
  return (await sql.query('delete from offer_claim where basket_id = $1 returning 1', [basketId])).length > 0;
}

/** Offers of which a basket wants more than is left; their rows stay locked until the transaction ends. */
export async function overclaimed(
  sql: Writer,
  basketId: string,
  customerId: number | null,
  wanted: readonly { offerId: number; uses: number }[],
  at: Date,
): Promise<string[]> {
  await sql.query('select 1 from offer where id = any ($1::integer[]) order by id for update', [
    wanted.map(({ offerId }) => offerId),
  ]);
  const rows = await sql.query<{ name: string }>(
    `select offer.name
     from (select "offerId" as id, sum(uses) as uses
           from jsonb_to_recordset($1::jsonb) as one ("offerId" integer, uses integer) group by 1) as wanted
     join offer on offer.id = wanted.id
     cross join lateral offer_uses_left(offer.id, $2, $3, $4) as rest
     where least(rest.in_all, rest.of_customer) < wanted.uses`,
    [JSON.stringify(wanted), customerId, basketId, at.toISOString()],
  );
  return rows.map(({ name }) => name);
}

/** Codes that another basket holds, or that were used. */
export function takenCodes(
  sql: Reader,
  basketId: string,
  codes: readonly string[],
  at: Date,
): Promise<{ code: string }[]> {
  return sql.query<{ code: string }>(
    `select code from offer_code where code = any ($1::text[]) and (withdrawn_at is not null or single and (
       coalesce((select sum(uses) from offer_use where offer_use.code = offer_code.code), 0) > 0
       or exists (select 1 from offer_claim where offer_claim.code = offer_code.code and basket_id <> $2
                  and claim_stands(basket_id, at, $3::timestamptz))))`,
    [codes, basketId, at.toISOString()],
  );
}

/** Groups of customers that an offer may be for. */
export async function groupNames(sql: Reader): Promise<string[]> {
  const rows = await sql.query<{ name: string }>('select name from customer_group order by name');
  return rows.map(({ name }) => name);
}

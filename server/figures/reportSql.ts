import { daysOf } from '../../core/figures/period.ts';
import type { FigureKind } from '../../core/figures/figureKinds.ts';
import type { ReportName } from '../../core/figures/reports.ts';
import type { Ask } from '../db/asked.ts';

/** What a report is asked for, as parameters in the statement. */
export interface Asked {
  from: string;
  to: string;
  place: number;
  till: number;
  category: number;
  supplier: number;
  /** The first moment after the last day. */
  until: string;
  /** The first moment of the first day. */
  since: string;
}

/** What the lines of sales come to for an item or a customer, without tax. */
export interface Sold {
  id: number;
  count: number;
  quantity: number;
  sold: number;
  cost: number;
}

/** Rows with `key`, `name`, `more`, and the figures of the report. */
type Plain = ((asked: Asked, ask: Ask) => string) & {
  /** Read from what is kept by day, whose rows are few for any period. */
  kept?: true;
};
/** A report of what many lines come to: they are read by `lines`, a piece of the period at a time. */
export interface FromLines {
  /** Rows of `Sold`. */
  lines: (asked: Asked, ask: Ask) => string;
  /** The report itself, from the sums of all pieces. */
  report: (asked: Asked & { sold: readonly Sold[] }, ask: Ask) => string;
}

const within = ({ from, to }: Asked, ask: Ask, day: string) =>
  `${day} between ${ask(from)}::date and ${ask(to)}::date`;
const atTill = ({ place, till }: Asked, ask: Ask) =>
  `${place ? `and till.place_id = ${ask(place)}` : ''} ${till ? `and till.id = ${ask(till)}` : ''}`;
const ofItem = ({ category, supplier }: Asked, ask: Ask) =>
  `${category ? `and item.category_id = ${ask(category)}` : ''} ${
    supplier
      ? `and exists (select 1 from item_supplier as source
        where source.item_id = item.id and source.supplier_id = ${ask(supplier)})`
      : ''
  }`;

/** Of some tills only, where that is asked. */
const ofTills = (asked: Asked, ask: Ask) =>
  asked.place || asked.till
    ? `and till_id in (select till.id from till where true ${atTill(asked, ask)})`
    : '';

/** How the sums of what is kept by day are told apart, and in which words. */
interface KeptBy {
  /**
   * What they are added up by, before anything is joined: a year has many rows, and few days, hours, tills or
   * subjects.
   */
  by?: 'day' | 'hour' | 'till_id' | 'subject';
  /** Whether several of these make one row. */
  several?: boolean;
  key: string;
  name: string;
  more?: string;
  join?: string;
}

/** Sums of what is kept by day. @param numbers what the four numbers that are kept say, by the report's columns */
function kept(
  kind: FigureKind,
  { by = 'subject', several = false, key, name, more = `''`, join = '' }: KeptBy,
  numbers: Readonly<Record<string, string>>,
): Plain {
  const inner = Object.entries(numbers).map(([column, sums]) => `${sums} as ${column}`);
  const outer = Object.keys(numbers).map((column) =>
    several ? `sum(figure.${column}) as ${column}` : `figure.${column}`,
  );
  const statement = (asked: Asked, ask: Ask) =>
    `select ${key} as key, ${name} as name, ${more} as more, ${outer.join(', ')}
     from (select ${by}, ${inner.join(', ')} from day_figure
           where kind = '${kind}' and ${within(asked, ask, 'day')} ${ofTills(asked, ask)} group by 1) as figure
     ${join} ${several ? 'group by 1, 2, 3' : ''}`;
  return Object.assign(statement, { kept: true as const });
}
const TILLS = 'join till on till.id = figure.till_id join place on place.id = till.place_id';
const SOLD = {
  count: 'sum(count)',
  quantity: 'sum(quantity)',
  sold: 'sum(amount)',
  cost: 'sum(more)',
  margin: 'sum(amount) - sum(more)',
};
const OFF = { count: 'sum(count)', off: 'sum(amount)', sold: 'sum(more)' };

/** What a line comes to without tax, whichever way the shop's prices are. */
export const AMOUNT = `case sale.tax_mode when 'inside' then without_tax(line.net, line.taxes) else line.net end`;

/** The lines of goods that were sold, with the till of their sale. */
const LINES = `standing_sale as sale join till on till.id = sale.till_id
  join sale_line as line on line.sale_id = sale.id`;
export const GOODS = 'is_sold(line.stored_value_id, line.account_id, line.promise_part)';

/** What was sold of each item, and what it cost: its lines and its moves, each added up before they meet. */
const soldByItem = (asked: Asked, ask: Ask): string =>
  `select item_id as id, 0 as count, sum(quantity)::bigint as quantity, sum(sold)::bigint as sold,
     sum(cost)::bigint as cost from (
     with chosen as materialized (
       select sale.id, sale.tax_mode from standing_sale as sale join till on till.id = sale.till_id
       where ${within(asked, ask, 'sale.business_date')} ${atTill(asked, ask)})
     select line.item_id, sum(line.quantity) as quantity, sum(${AMOUNT}) as sold, 0 as cost
     from chosen as sale join sale_line as line on line.sale_id = sale.id where ${GOODS} group by 1
     union all
     select move.item_id, 0, 0, 0 - sum(move.cost)
     from chosen join ledger_event as event on event.sale_id = chosen.id and event.kind = 'sale'
     join stock_move as move on move.event_id = event.id
     where (move.against = 'cost-of-goods' or move.against is null) group by 1) as part group by 1`;

const SOLD_COLUMNS = ['id', 'count', 'quantity', 'sold', 'cost'] as const;

/** The sums of all pieces, as rows in the statement. */
const given = (sold: readonly Sold[], ask: Ask): string => {
  const lists = SOLD_COLUMNS.map((column) => `${ask(sold.map((row) => row[column]))}::bigint[]`);
  return `unnest(${lists.join(', ')}) as part (${SOLD_COLUMNS.join(', ')})`;
};

/** Sums over items, by something that items have. */
const byItem = (key: string, name: string, more: string, join: string): FromLines => ({
  lines: soldByItem,
  report: (asked, ask) =>
    `select ${key} as key, ${name} as name, ${more} as more, sum(quantity) as quantity, sum(sold) as sold,
       sum(part.cost) as cost, sum(sold) - sum(part.cost) as margin
     from ${given(asked.sold, ask)} join item on item.id = part.id ${join}
     where true ${ofItem(asked, ask)} group by 1, 2, 3`,
});

/** What was sold to each customer, by the record that the sale names. */
const soldByCustomer = (asked: Asked, ask: Ask): string =>
  `select customer_id as id, count(*) filter (where sells)::integer as count, sum(quantity)::bigint as quantity,
     sum(sold)::bigint as sold, sum(cost)::bigint as cost
   from (select sale.id, sale.customer_id, max(line.quantity) > 0 as sells, sum(line.quantity) as quantity,
           sum(${AMOUNT}) as sold,
           (select coalesce(sum(amount), 0) from ledger_event as event join ledger_entry on event_id = event.id
            where event.sale_id = sale.id and event.kind = 'sale' and account = 'cost-of-goods') as cost
         from ${LINES}
         where ${GOODS} and sale.customer_id is not null
           and ${within(asked, ask, 'sale.business_date')} ${atTill(asked, ask)}
         group by sale.id, sale.customer_id) as part group by 1`;

/** What the sales of customers come to, by something that customers have. */
const byCustomer = (key: string, name: string, join: string): FromLines => ({
  lines: soldByCustomer,
  report: (asked, ask) =>
    `select ${key} as key, ${name} as name, '' as more, sum(part.count) as count, sum(part.quantity) as quantity,
       sum(part.sold) as sold, sum(part.cost) as cost, sum(part.sold) - sum(part.cost) as margin
     from ${given(asked.sold, ask)} join customer as buyer on buyer.id = part.id
       join customer on customer.id = coalesce(buyer.merged_into, buyer.id)
     ${join} group by 1, 2`,
});

const atPlace = ({ place }: Asked, ask: Ask, column: string) =>
  place ? `and ${column} = ${ask(place)}` : '';

/** What lay there of each item at the end of the last day, and what of it was sold in the days. */
const stockOfItems: Plain = (asked, ask) =>
  `select item.id, item.number, item.name, item.category_id, lay.quantity, lay.value,
     case when item.price is null then lay.value else round(lay.quantity * item.price / 1000.0
       * case when shop.tax_mode = 'inside' then 1000000.0 / (1000000 + coalesce(tax.rate, 0))
         else 1 end)::bigint end as retail,
     coalesce(lay.gone, 0) as gone, coalesce(lay.cost, 0) as cost, lay.last_sold, lay.first_came
   from (select item_id, sum(quantity) as quantity, coalesce(sum(cost), 0) as value,
           0 - sum(quantity) filter (where sale_id is not null and at >= ${ask(asked.since)}) as gone,
           0 - sum(cost) filter (where sale_id is not null and at >= ${ask(asked.since)}) as cost,
           max(at) filter (where sale_id is not null and quantity < 0) as last_sold, min(at) as first_came
         from stock_move where at < ${ask(asked.until)} ${atPlace(asked, ask, 'place_id')}
         group by 1 having sum(quantity) <> 0 or coalesce(sum(cost), 0) <> 0) as lay
   join item on item.id = lay.item_id cross join shop
   left join lateral (select sum(rate) as rate from (
     select distinct on (name) rate from tax_rate
       where tax_category_id = item.tax_category_id and from_day <= ${ask(asked.to)}::date
     order by name, from_day desc) as in_force) as tax on true
   where true ${ofItem(asked, ask)}`;

const movedByItem =
  (numbers: string, which: (asked: Asked, ask: Ask) => string, group = ''): Plain =>
  (asked, ask) =>
    `select item.id::text as key, item.name, item.number as more, ${numbers}
     from stock_move as move join item on item.id = move.item_id
     where ${which(asked, ask)} ${atPlace(asked, ask, 'move.place_id')} ${ofItem(asked, ask)}
       group by 1, 2, 3 ${group}`;

/** Promises' money by the books until the end of the last day. */
const HELD = (until: string) => `select substr(subject, 9)::uuid as id, 0 - sum(amount) as held
  from ledger_entry join ledger_event as event on event.id = event_id
  where account = 'customer-deposits' and event.at < ${until} group by 1 having sum(amount) <> 0`;

const AGES = `case when days <= 30 then '1' when days <= 60 then '2' when days <= 90 then '3' else '4' end`;
const AGE_WORDS = `case when days <= 30 then 'Until 30 days' when days <= 60 then '31 to 60 days'
  when days <= 90 then '61 to 90 days' else 'Longer' end`;
const REASON = `case when figure.subject = '' then 'No reason' else figure.subject end`;

export const REPORT_SQL: Readonly<Record<ReportName, Plain | FromLines>> = {
  days: kept('sale', { by: 'day', key: 'figure.day::text', name: 'figure.day::text' }, SOLD),
  months: kept(
    'sale',
    {
      by: 'day',
      several: true,
      key: `to_char(figure.day, 'YYYY-MM')`,
      name: `to_char(figure.day, 'YYYY-MM')`,
    },
    SOLD,
  ),
  weekdays: kept(
    'sale',
    {
      by: 'day',
      several: true,
      key: `extract(isodow from figure.day)::text`,
      name: `extract(isodow from figure.day)::text`,
    },
    SOLD,
  ),
  hours: kept(
    'sale',
    { by: 'hour', key: `lpad(hour::text, 2, '0')`, name: `lpad(hour::text, 2, '0') || ':00'` },
    SOLD,
  ),
  places: kept(
    'sale',
    { by: 'till_id', several: true, key: 'place.id::text', name: 'place.name', join: TILLS },
    SOLD,
  ),
  tills: kept(
    'sale',
    { by: 'till_id', key: 'till.id::text', name: `'Till ' || till.number`, more: 'place.name', join: TILLS },
    SOLD,
  ),
  people: kept(
    'sale',
    { key: 'figure.subject', name: 'staff.name', join: 'join staff on staff.id = figure.subject::integer' },
    SOLD,
  ),
  customers: byCustomer(
    'customer.id::text',
    `coalesce(nullif(customer.name, ''), nullif(customer.company, ''), 'Customer ' || customer.id)`,
    '',
  ),
  'kinds-of-customers': kept(
    'customer',
    {
      key: 'figure.subject',
      name: `case figure.subject when 'known' then 'Known' when 'new' then 'New' else 'Not named' end`,
    },
    SOLD,
  ),
  groups: byCustomer(
    'customer_group.id::text',
    'customer_group.name',
    `join customer_membership as member on member.customer_id = customer.id
      join customer_group on customer_group.id = member.group_id`,
  ),
  items: byItem('item.id::text', 'item.name', 'item.number', ''),
  categories: kept(
    'category',
    {
      key: 'figure.subject',
      name: 'category.name',
      join: 'join category on category.id = figure.subject::integer',
    },
    { quantity: SOLD.quantity, sold: SOLD.sold, cost: SOLD.cost, margin: SOLD.margin },
  ),
  suppliers: byItem(
    `coalesce(source.id, 0)::text`,
    `coalesce(source.name, 'No supplier')`,
    `''`,
    `left join lateral (select supplier.id, supplier.name from item_supplier join supplier on supplier.id = supplier_id
       where item_supplier.item_id = item.id order by rank, supplier.id limit 1) as source on true`,
  ),
  stock: (asked, ask) =>
    `select stock.id::text as key, name, number as more, quantity, value, retail, retail - value as earned, gone,
       quantity + gone as had, case when quantity > 0 then quantity * ${ask(daysOf(asked))}::bigint end as lasting
     from (${stockOfItems(asked, ask)}) as stock`,
  'stock-categories': (asked, ask) =>
    `select category.id::text as key, category.name, '' as more, sum(value) as value, sum(retail) as retail,
       sum(retail) - sum(value) as earned, sum(cost) as cost, sum(cost) * 365 / ${ask(daysOf(asked))}::integer as yearly
     from (${stockOfItems(asked, ask)}) as stock join category on category.id = stock.category_id group by 1, 2`,
  'not-sold': (asked, ask) =>
    `select stock.id::text as key, name, number as more, quantity, value,
       extract(day from ${ask(asked.until)}::timestamptz - coalesce(last_sold, first_came))::integer as since
     from (${stockOfItems(asked, ask)}) as stock where quantity > 0 and gone <= 0`,
  'sell-through': (asked, ask) =>
    `select came.key, came.name, came.more, came.came, coalesce((
       select 0 - sum(move.quantity) from stock_move as move
       where move.item_id = came.key::integer and move.sale_id is not null and move.at >= came.at
         and move.at < ${ask(asked.until)} ${atPlace(asked, ask, 'move.place_id')}), 0) as gone
     from (${movedByItem('sum(move.quantity) as came, min(move.at) as at', (all, give) => `move.reason = 'received' and move.at >= ${give(all.since)} and move.at < ${give(all.until)}`)(asked, ask)}) as came`,
  shrinkage: movedByItem(
    'sum(move.quantity) as quantity, 0 - coalesce(sum(move.cost), 0) as lost',
    (all, give) =>
      `move.against in ('shrinkage', 'own-use') and move.at >= ${give(all.since)} and move.at < ${give(all.until)}`,
  ),
  means: kept(
    'means',
    {
      key: 'figure.subject',
      name: 'type.name',
      join: 'join tender_type as type on type.id = figure.subject::integer',
    },
    { count: 'sum(count)', paid: 'sum(amount)', tips: 'sum(more)' },
  ),
  taxes: kept(
    'tax',
    {
      key: 'figure.subject',
      name: `rate.name || ' ' || trim_scale(rate.rate / 10000.0) || ' %'`,
      join: 'join tax_rate as rate on rate.id = figure.subject::integer',
    },
    { count: 'sum(count)', tax: 'sum(amount)', base: 'sum(more)' },
  ),
  exempt: kept(
    'exempt',
    { key: 'figure.subject', name: REASON },
    { count: 'sum(count)', sold: 'sum(amount)' },
  ),
  donations: kept(
    'donation',
    { key: 'figure.subject', name: 'fund.name', join: 'join fund on fund.id = figure.subject::integer' },
    { count: 'sum(count)', given: 'sum(amount)' },
  ),
  'gift-cards-sold': kept(
    'value',
    {
      key: 'figure.subject',
      name: `case figure.subject when 'gift-card' then 'Gift cards' when 'certificate' then 'Certificates'
        else 'Store credit' end`,
    },
    { count: 'sum(count)', sold: 'sum(amount)' },
  ),
  'over-short': (asked, ask) =>
    `select shift.id::text as key, 'Till ' || till.number || ', shift ' || shift.number as name,
       place.name || ', ' || to_char(closed_at at time zone shop.timezone, 'YYYY-MM-DD') || ', ' || staff.name as more,
       (closing->>'expected')::bigint as expected,
       (closing->>'expected')::bigint + (closing->>'variance')::bigint as counted,
       (closing->>'variance')::bigint as variance,
       (select coalesce(sum(note.amount), 0) from variance_note as note where note.shift_id = shift.id) as explained
     from shift join till on till.id = till_id join place on place.id = till.place_id
       join staff on staff.id = closed_by cross join shop
     where shift.state = 'closed' and closed_at >= ${ask(asked.since)}
       and closed_at < ${ask(asked.until)} ${atTill(asked, ask)}`,
  discounts: kept(
    'off',
    {
      key: 'figure.subject',
      name: `case when offer.id is not null then offer.name
        when substr(figure.subject, strpos(figure.subject, ':') + 1) = '' then 'No reason'
        else substr(figure.subject, strpos(figure.subject, ':') + 1) end`,
      more: `case split_part(figure.subject, ':', 1) when 'offer' then 'Offer'
        when 'group-price' then 'Price of a group'
        when 'typed-price' then 'Typed price' when 'label-price' then 'Price on the label'
          when 'discount' then 'Discount'
        when 'points' then 'Points' else 'Other' end`,
      join: `left join offer on figure.subject = 'offer:' || offer.id`,
    },
    OFF,
  ),
  'discounts-by-person': kept(
    'off-by',
    { key: 'figure.subject', name: 'staff.name', join: 'join staff on staff.id = figure.subject::integer' },
    OFF,
  ),
  returns: kept(
    'return',
    { key: 'figure.subject', name: REASON },
    { count: 'sum(count)', quantity: 'sum(quantity)', refunded: 'sum(amount)', cost: 'sum(more)' },
  ),
  voids: kept(
    'void',
    { key: 'figure.subject', name: 'staff.name', join: 'join staff on staff.id = figure.subject::integer' },
    { count: 'sum(count)', total: 'sum(amount)' },
  ),
  openings: (asked, ask) =>
    `select reason as key, case reason when '' then 'No reason' else reason end as name, '' as more, count(*) as count
     from drawer_opening as opening join till on till.id = opening.till_id
     where opening.at >= ${ask(asked.since)} and opening.at < ${ask(asked.until)} ${atTill(asked, ask)} group by 1, 2`,
  'gift-cards': (asked, ask) =>
    `select kind as key, case kind when 'gift-card' then 'Gift cards' when 'certificate' then 'Certificates'
      else 'Store credit' end as name,
       '' as more, count(*) filter (where left_over <> 0) as count, sum(left_over) as owed
     from (select stored_value.kind, sum(move.amount) as left_over from stored_value join stored_value_move as move
             on move.stored_value_id = stored_value.id where move.at < ${ask(asked.until)}
               group by stored_value.id) as card
     group by 1, 2`,
  deposits: (asked, ask) =>
    `select ${AGES} as key, ${AGE_WORDS} as name, '' as more, count(*) as count, sum(held) as held
     from (select money.held, extract(day from ${ask(asked.until)}::timestamptz - made_at) as days
           from (${HELD(ask(asked.until))}) as money join promise using (id)
           where true ${atPlace(asked, ask, 'promise.place_id')}) as aged group by 1, 2`,
  accounts: (asked, ask) =>
    `select customer.id::text as key, coalesce(nullif(company, ''), customer.name) as name, '' as more,
       sum(part.amount) filter (where late <= 0) as not_due,
       coalesce(sum(part.amount) filter (where late between 1 and 30), 0) as late_30,
       coalesce(sum(part.amount) filter (where late between 31 and 60), 0) as late_60,
       coalesce(sum(part.amount) filter (where late > 60), 0) as late_more, account.balance as owed
     from account join customer on customer.id = account.customer_id
     join (select account_id, remaining as amount, case when remaining < 0 then 0
       else ${ask(asked.to)}::date - due_on end as late
           from account_item where remaining <> 0 and kind <> 'void'
           union all select id, 0, 0 from account) as part on part.account_id = account.id
     where account.balance <> 0 group by account.id, customer.id`,
  points: (asked, ask) =>
    `select customer.id::text as key, coalesce(nullif(customer.name, ''), nullif(company, ''),
      'Customer ' || customer.id) as name,
       '' as more, sum(amount) as points, points_value(sum(amount)::bigint) as worth
     from points_move as move join customer on customer.id = move.customer_id where move.at < ${ask(asked.until)}
     group by customer.id having sum(amount) <> 0`,
  orders: (asked, ask) =>
    `select promise.kind as key, case promise.kind when 'layaway' then 'Layaways' when 'order' then 'Orders'
         when 'relay' then 'Relays' else initcap(replace(promise.kind, '-', ' ')) end as name, '' as more,
       count(*) as count, sum(total) as total, count(*) filter (where cancelled_at is null and handed < units) as open,
       sum(held) as held
     from promise left join till on till.id = promise.till_id
     where made_at >= ${ask(asked.since)} and made_at < ${ask(asked.until)} ${atPlace(asked, ask, 'promise.place_id')}
     group by 1, 2`,
};

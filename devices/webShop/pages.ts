import escape from 'escape-html';
import { formatMoney } from '../../core/money.ts';
import type { WebOrder } from './book.ts';

/** Goods that can be ordered, and where they can be collected. */
export interface WebGoods {
  shop: string;
  currency: string;
  goods: { number: string; name: string; price: number; available: number }[];
}

/** What an order would come to. */
export interface WebQuote {
  lines: { number: string; name: string; quantity: number; unitPrice: number; amount: number }[];
  fee: number;
  total: number;
  firstPayment: number;
  places: { id: number; name: string; first: { day: string; time: string } | null }[];
}

export const STYLE = `
body { margin: 0; font: 17px/1.45 Georgia, serif; color: #22303c; background: #f7f4ee; }
header { background: #2d5d50; color: #fff; padding: 14px 24px; display: flex; gap: 28px;
  align-items: baseline; flex-wrap: wrap; }
header b { font-size: 22px; }
header a { color: #fff; }
main { max-width: 900px; margin: 0 auto; padding: 22px; }
table { border-collapse: collapse; width: 100%; }
td, th { text-align: left; padding: 7px 10px; border-bottom: 1px solid #c9c2b2; }
.right { text-align: right; font-variant-numeric: tabular-nums; }
input, select, button { font: inherit; padding: 6px 9px; }
input.few { width: 4em; }
button { background: #2d5d50; color: #fff; border: 0; padding: 9px 16px; cursor: pointer; }
button.plain { background: #fff; color: #22303c; border: 1px solid #22303c; }
fieldset { border: 1px solid #c9c2b2; margin: 14px 0; padding: 12px 16px; display: grid; gap: 9px;
  grid-template-columns: 1fr 1fr; }
label { display: grid; gap: 3px; }
label.way { display: flex; gap: 8px; align-items: center; }
.said { background: #fbe3dc; border-left: 6px solid #a8341c; padding: 8px 12px; }
.bars svg { width: 260px; height: auto; }
.acts { display: flex; gap: 10px; flex-wrap: wrap; margin: 14px 0; }
`;

const page = (shop: string, title: string, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>${escape(title)}</title><link rel="stylesheet" href="/style.css"></head>
<body><header><b>${escape(shop)}, online</b> <a href="/">Goods</a> <a href="/orders">Orders</a> <a href="/key">The shop's key</a>
<span>A web shop for trying things out: nobody is sent anything.</span></header><main><h1>${escape(title)}</h1>${body}</main></body></html>`;

const money = (amount: number): string => formatMoney(amount, 2);
const said = (words: string): string => (words ? `<p class="said" role="alert">${escape(words)}</p>` : '');

/** Goods that can be ordered. */
export const goodsPage = ({ shop, goods }: WebGoods, find: string): string =>
  page(
    shop,
    'Goods',
    `<form action="/"><label>Find <input name="find" value="${escape(find)}"></label></form>
<form action="/order" method="get"><table><tr><th>Goods</th><th></th><th class="right">Price</th><th>How many</th></tr>
${goods
  .map(
    ({ number, name, price, available }) =>
      `<tr><td>${escape(name)}</td><td>${escape(number)}</td><td class="right">${money(price)}</td>
<td><input class="few" name="${escape(number)}" inputmode="numeric" aria-label="How many of ${escape(name)}"> ${available > 0 ? '' : 'to come'}</td></tr>`,
  )
  .join('')}</table><div class="acts"><button>To the order</button></div></form>`,
  );

/** What is typed of an order. */
export type Typed = Readonly<Record<string, string>>;

const field = (typed: Typed, name: string, words: string, more = ''): string =>
  `<label>${words}<input name="${name}" value="${escape(typed[name] ?? '')}" ${more}></label>`;
const choice = (typed: Typed, name: string, value: string, words: string): string =>
  `<label class="way"><input type="radio" name="${name}" value="${value}" ${typed[name] === value ? 'checked' : ''}> ${words}</label>`;

/** The order as it is placed: what it comes to, who orders, how it gets there and how it is paid. */
export const orderPage = (shop: string, quote: WebQuote, typed: Typed, wrong: string): string =>
  page(
    shop,
    'Your order',
    `${said(wrong)}<table>${quote.lines
      .map(
        ({ name, quantity, amount }) =>
          `<tr><td>${quantity} × ${escape(name)}</td><td class="right">${money(amount)}</td></tr>`,
      )
      .join('')}
<tr><td>Shipping</td><td class="right">${money(quote.fee)}</td></tr>
<tr><td><b>Total with tax</b></td><td class="right"><b>${money(quote.total)}</b></td></tr></table>
<form method="post" action="/order">
${quote.lines.map(({ number, quantity }) => `<input type="hidden" name="item:${escape(number)}" value="${quantity}">`).join('')}
<fieldset><legend>Who orders</legend>${field(typed, 'name', 'Name')}${field(typed, 'mail', 'Mail')}${field(typed, 'phone', 'Telephone')}${field(typed, 'note', 'Note')}</fieldset>
<fieldset><legend>How it gets to you</legend>
${choice(typed, 'way', 'collect', 'Collect it')}
<label>Where<select name="place">${quote.places.map(({ id, name, first }) => `<option value="${id}" ${typed.place === String(id) ? 'selected' : ''}>${escape(name)}${first ? `, from ${first.day} ${first.time}` : ''}</option>`).join('')}</select></label>
${field(typed, 'day', 'Day', 'type="date"')}${field(typed, 'time', 'Time', 'type="time"')}
${choice(typed, 'way', 'ship', 'Have it sent')}<span></span>
${field(typed, 'street', 'Street and number')}${field(typed, 'postcode', 'Postcode')}${field(typed, 'city', 'Town')}</fieldset>
<fieldset><legend>How it is paid</legend>${choice(typed, 'pay', 'now', 'Pay now')}${choice(typed, 'pay', 'later', 'Pay when it is handed over')}
${choice(typed, 'pay', 'fails', 'Pay now, with a card that is refused')}</fieldset>
<div class="acts"><button name="do" value="order">Order</button><button class="plain" name="do" value="look">What does it come to?</button></div></form>`,
  );

const stateOf = ({ refused, number, words, cancelling }: WebOrder): string =>
  refused
    ? 'Refused by the shop'
    : number === null
      ? 'On its way to the shop'
      : cancelling
        ? 'Being cancelled'
        : words;

/** All orders, the latest first. */
export const ordersPage = (shop: string, orders: readonly WebOrder[]): string =>
  page(
    shop,
    'Orders',
    orders.length === 0
      ? '<p>Nothing was ordered yet.</p>'
      : `<table><tr><th>Order</th><th>Who</th><th>State</th><th class="right">Total</th><th class="right">To pay</th></tr>
${orders
  .toReversed()
  .map(
    (order) =>
      `<tr><td><a href="/orders/${order.reference}">${order.reference}</a></td><td>${escape(order.customer.name)}</td>
<td>${escape(stateOf(order))}</td><td class="right">${money(order.total)}</td><td class="right">${money(order.open)}</td></tr>`,
  )
  .join('')}</table>`,
  );

const button = (order: WebOrder, act: string, words: string): string =>
  `<form method="post" action="/orders/${order.reference}/${act}"><button class="plain">${words}</button></form>`;

/** One order: how it stands here and there. @param barcode an SVG picture of its number */
export const oneOrderPage = (shop: string, order: WebOrder, barcode: string): string =>
  page(
    shop,
    `Order ${order.reference}`,
    `${said(order.said)}<div class="bars">${barcode}</div>
<table><tr><td>State</td><td id="state"><b>${escape(stateOf(order))}</b></td></tr>
<tr><td>The shop calls it</td><td id="number">${escape(order.number ?? '')}</td></tr>
<tr><td>Who</td><td>${escape([order.customer.name, order.customer.mail].filter(Boolean).join(', '))}</td></tr>
${order.lines.map(({ name, quantity, unitPrice }) => `<tr><td>${quantity} × ${escape(name)}</td><td class="right">${money(quantity * unitPrice)}</td></tr>`).join('')}
<tr><td>Total with tax and shipping</td><td class="right">${money(order.total)}</td></tr>
<tr><td>Left to pay</td><td class="right" id="open">${money(order.open)}</td></tr>
<tr><td>Given back</td><td class="right" id="given-back">${money(order.givenBack)}</td></tr>
<tr><td>Sent to the shop</td><td id="sent">${order.sent === 1 ? 'once' : `${order.sent} times`}</td></tr></table>
<div class="acts"><a href="/orders/${order.reference}">Look again</a>${order.open > 0 ? button(order, 'paid', 'Pay what is left') : ''}
${button(order, 'sent', 'Send it once more')}${button(order, 'cancelled', 'Cancel it')}</div>`,
  );

/** Where the key of the shop is typed. */
export const keyPage = (shop: string, keyEnd: string, wrong: string): string =>
  page(
    shop,
    "The shop's key",
    `${said(wrong)}<p>It stands under Setup › Orders from elsewhere when a channel is made. The one that is used ends with <b>${escape(keyEnd)}</b>.</p>
<form method="post" action="/key"><label>Key<input name="key" autocomplete="off"></label><div class="acts"><button>Use it</button></div></form>`,
  );

/** Where the shop cannot be asked. */
export const closedPage = (words: string): string =>
  page('The shop', 'Closed for the moment', `${said(words)}<p>Try again in a moment.</p>`);

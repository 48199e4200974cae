import type { Paper, PaperRow } from '../journal/paper.ts';
import type { ReceiptHead } from '../journal/receipt.ts';
import { formatMoneyIn, type Money } from '../money.ts';
import { formatQuantity, ONE, type Quantity } from '../quantity.ts';
import type { Collecting, Shipping } from './order.ts';
import { WAYS, type Way } from './ways.ts';

/** A line of an order as papers name it. */
export interface OrderLineOnPaper {
  name: string;
  number: string;
  quantity: Quantity;
  unit: string;
  net: Money;
  serial: string | null;
  note: string;
  way: Way;
  /** Where it is picked, or lies. */
  place: string;
  /** What of it is still to be picked. */
  toPick: Quantity;
}

/** What the papers of an order say; days and times as the shop writes them. */
export interface OrderOnPaper {
  shop: ReceiptHead;
  number: string;
  when: string;
  by: string;
  customer: string;
  digits: number;
  currency: string;
  lines: readonly OrderLineOnPaper[];
  total: Money;
  /** What is left to pay. */
  left: Money;
  note: string;
  collect: (Pick<Collecting, 'place' | 'collector'> & { when: string; address: string }) | null;
  ship: Shipping | null;
}

const units = (quantity: Quantity, unit: string): string =>
  `${formatQuantity(quantity)}${unit === 'each' ? ' ×' : ` ${unit}`}`;
const named = ({ name, quantity, unit }: OrderLineOnPaper): string =>
  quantity === ONE ? name : `${units(quantity, unit)} ${name}`;
const serialRow = (serial: string | null): PaperRow[] =>
  serial ? [{ kind: 'pair', left: `No. ${serial}`, right: '', indent: true }] : [];
const text = (words: string): PaperRow[] => (words ? [{ kind: 'text', text: words }] : []);

const addressRows = ({ recipient, street, postcode, city, phone }: Shipping): PaperRow[] => [
  ...text(recipient),
  ...text(street),
  ...text([postcode, city].filter(Boolean).join(' ')),
  ...text(phone && `Tel. ${phone}`),
];

function handoverRows({ collect, ship }: Pick<OrderOnPaper, 'collect' | 'ship'>): PaperRow[] {
  return [
    ...(collect
      ? [
          { kind: 'pair' as const, left: `Collect at ${collect.place}`, right: collect.when, strong: true },
          ...text(collect.address),
          ...text(collect.collector && `Or by ${collect.collector}`),
        ]
      : []),
    ...(ship
      ? [
          { kind: 'pair' as const, left: 'Shipped to', right: '', strong: true },
          ...addressRows(ship),
          ...text(ship.wishes),
        ]
      : []),
  ];
}

/** What the customer takes home, and brings along when the goods are collected. */
export function orderPaper(order: OrderOnPaper): Paper {
  const { shop, number, digits, lines } = order;
  const money = (amount: Money) => formatMoneyIn(shop.locale, amount, digits);
  const group = (way: Way): PaperRow[] => {
    const mine = lines.filter((line) => line.way === way);
    if (mine.length === 0) return [];
    return [
      { kind: 'text', text: way === 'take' ? 'Taken along' : WAYS[way] },
      ...mine.flatMap((line): PaperRow[] => [
        { kind: 'pair', left: named(line), right: money(line.net), indent: true },
        ...serialRow(line.serial),
      ]),
    ];
  };
  return {
    title: `Order ${number}`,
    rows: [
      { kind: 'title', text: shop.name },
      ...shop.words.map((words): PaperRow => ({ kind: 'centre', text: words })),
      { kind: 'gap' },
      { kind: 'title', text: `Order ${number}` },
      { kind: 'pair', left: order.by, right: order.when },
      { kind: 'pair', left: 'For', right: order.customer },
      { kind: 'rule' },
      ...group('take'),
      ...group('collect'),
      ...group('ship'),
      { kind: 'rule' },
      { kind: 'pair', left: `Total with tax ${order.currency}`, right: money(order.total), strong: true },
      { kind: 'gap' },
      ...handoverRows(order),
      ...text(order.note),
      { kind: 'gap' },
      { kind: 'barcode', text: number },
    ],
  };
}

/** What is fetched for an order, place by place. */
export function pickList(order: OrderOnPaper): Paper {
  const wanted = order.lines.filter(({ toPick }) => toPick > 0);
  const places = [...new Set(wanted.map(({ place }) => place))].sort();
  return {
    title: `Pick list ${order.number}`,
    rows: [
      { kind: 'title', text: `Pick ${order.number}` },
      { kind: 'pair', left: order.customer, right: order.collect?.when ?? '' },
      ...places.flatMap((place): PaperRow[] => [
        { kind: 'rule' },
        { kind: 'text', text: place },
        ...wanted
          .filter((line) => line.place === place)
          .flatMap((line): PaperRow[] => [
            {
              kind: 'pair',
              left: `${units(line.toPick, line.unit)} ${line.name}`,
              right: line.number,
              strong: true,
            },
            ...serialRow(line.serial),
            ...text(line.note),
            { kind: 'pair', left: WAYS[line.way], right: '[  ]', indent: true },
          ]),
      ]),
      ...(wanted.length === 0 ? [{ kind: 'text' as const, text: 'Nothing is left to pick.' }] : []),
      ...text(order.note),
      { kind: 'gap' },
      { kind: 'barcode', text: order.number },
    ],
  };
}

/** What lies in the parcel: of a gift it says no prices. */
export function packingSlip(order: OrderOnPaper): Paper {
  const { shop, ship, digits } = order;
  const gift = ship?.gift ?? false;
  const packed = order.lines.filter(({ way }) => way === 'ship');
  return {
    title: `Packing slip ${order.number}`,
    rows: [
      { kind: 'title', text: shop.name },
      ...shop.words.map((words): PaperRow => ({ kind: 'centre', text: words })),
      { kind: 'gap' },
      { kind: 'title', text: `Packing slip ${order.number}` },
      ...(ship ? addressRows(ship) : []),
      { kind: 'rule' },
      ...packed.flatMap((line): PaperRow[] => [
        {
          kind: 'pair',
          left: named(line),
          right: gift ? '' : formatMoneyIn(shop.locale, line.net, digits),
        },
        ...serialRow(line.serial),
        ...text(line.note),
      ]),
      { kind: 'rule' },
      ...text(gift ? `A gift from ${order.customer}` : ''),
      ...text(ship?.wishes ?? ''),
      { kind: 'barcode', text: order.number },
    ],
  };
}

/** What is sent to the customer when everything lies ready, or has left. */
export interface OrderMessage extends Pick<
  OrderOnPaper,
  'shop' | 'number' | 'customer' | 'digits' | 'left' | 'collect' | 'ship'
> {
  goods: string;
  /** A parcel has left: where it goes is said instead of when to come. */
  onItsWay: boolean;
  /** The carrier's number, where a parcel has one. */
  tracking: string;
}

/** Word to the customer of an order, with its barcode. */
export function orderMessage(message: OrderMessage): Paper {
  const { shop, number, customer, goods, left, tracking, ship, onItsWay } = message;
  const collect = onItsWay ? null : message.collect;
  return {
    title: `Order ${number}`,
    rows: [
      { kind: 'title', text: shop.name },
      {
        kind: 'text',
        text: onItsWay
          ? `${customer}, your order is on its way to ${ship?.recipient ?? 'you'}: ${goods}.`
          : `${customer}, your order waits for you: ${goods}.`,
      },
      ...(collect
        ? [
            { kind: 'text' as const, text: `Collect it at ${collect.place}, ${collect.when}.` },
            ...text(collect.address),
          ]
        : []),
      ...text(onItsWay && tracking ? `The carrier’s number is ${tracking}.` : ''),
      ...text(left > 0 ? `${formatMoneyIn(shop.locale, left, message.digits)} is left to pay.` : ''),
      ...(collect ? text('Bring this number along:') : []),
      { kind: 'barcode', text: number },
    ],
  };
}

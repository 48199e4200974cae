import type { Paper, PaperRow } from '../journal/paper.ts';
import { formatMoneyIn, type Money } from '../money.ts';
import type { Quantity } from '../quantity.ts';
import type { Collecting, Shipping } from './order.ts';
import {
  goodsRows,
  headRows,
  serialRows,
  shopRows,
  unitsOnPaper,
  wordRows,
  type GoodsOnPaper,
  type PromiseOnPaper,
} from './promiseOnPaper.ts';
import { WAYS, type Way } from './ways.ts';

/** A line of an order as papers name it. */
export interface OrderLineOnPaper extends GoodsOnPaper {
  number: string;
  note: string;
  way: Way;
  /** Where it is picked, or lies. */
  place: string;
  /** What of it is still to be picked. */
  toPick: Quantity;
}

/** What the papers of an order say. */
export interface OrderOnPaper extends PromiseOnPaper {
  lines: readonly OrderLineOnPaper[];
  /** What is left to pay. */
  left: Money;
  collect: (Pick<Collecting, 'place' | 'collector'> & { when: string; address: string }) | null;
  ship: Shipping | null;
}

const addressRows = ({ recipient, street, postcode, city, phone }: Shipping): PaperRow[] => [
  ...wordRows(recipient),
  ...wordRows(street),
  ...wordRows([postcode, city].filter(Boolean).join(' ')),
  ...wordRows(phone && `Tel. ${phone}`),
];

function handoverRows({ collect, ship }: Pick<OrderOnPaper, 'collect' | 'ship'>): PaperRow[] {
  return [
    ...(collect
      ? [
          { kind: 'pair' as const, left: 'Collect at', right: collect.place, strong: true },
          { kind: 'pair' as const, left: 'When', right: collect.when, strong: true },
          ...wordRows(collect.address),
          ...wordRows(collect.collector && `Or by ${collect.collector}`),
        ]
      : []),
    ...(ship
      ? [
          { kind: 'pair' as const, left: 'Shipped to', right: '', strong: true },
          ...addressRows(ship),
          ...wordRows(ship.wishes),
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
      ...mine.flatMap((line) => goodsRows(line, money(line.net), true)),
    ];
  };
  return {
    title: `Order ${number}`,
    rows: [
      ...headRows(order, `Order ${number}`, 'For'),
      ...group('take'),
      ...group('collect'),
      ...group('ship'),
      { kind: 'rule' },
      { kind: 'pair', left: `Total with tax ${order.currency}`, right: money(order.total), strong: true },
      { kind: 'gap' },
      ...handoverRows(order),
      ...wordRows(order.note),
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
              left: `${unitsOnPaper(line.toPick, line.unit)} ${line.name}`,
              right: line.number,
              strong: true,
            },
            ...serialRows(line.serial),
            ...wordRows(line.note),
            { kind: 'pair', left: WAYS[line.way], right: '[  ]', indent: true },
          ]),
      ]),
      ...(wanted.length === 0 ? [{ kind: 'text' as const, text: 'Nothing is left to pick.' }] : []),
      ...wordRows(order.note),
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
      ...shopRows(shop, `Packing slip ${order.number}`),
      ...(ship ? addressRows(ship) : []),
      { kind: 'rule' },
      ...packed.flatMap((line) => [
        ...goodsRows(line, gift ? '' : formatMoneyIn(shop.locale, line.net, digits)),
        ...wordRows(line.note),
      ]),
      { kind: 'rule' },
      ...wordRows(gift ? `A gift from ${order.customer}` : ''),
      ...wordRows(ship?.wishes ?? ''),
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
            ...wordRows(collect.address),
          ]
        : []),
      ...wordRows(onItsWay && tracking ? `The carrier’s number is ${tracking}.` : ''),
      ...wordRows(left > 0 ? `${formatMoneyIn(shop.locale, left, message.digits)} is left to pay.` : ''),
      ...(collect ? wordRows('Bring this number along:') : []),
      { kind: 'barcode', text: number },
    ],
  };
}

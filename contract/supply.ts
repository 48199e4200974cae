import type { OrderState, Reliability } from '../core/supply/purchaseOrder.ts';
import { MOST_ORDER_LINES } from '../core/supply/purchaseOrder.ts';
import { SPREADS, type SpreadBy } from '../core/supply/landedCost.ts';
import { listQuerySchema } from './listQuery.ts';
import { array, boolean, dayOrNothing, object, safe, string, whole, type InferType } from './yup.ts';

const words = (most: number) => string().trim().max(most, `At most ${most} characters.`).default('');
const money = () => safe().min(0, 'Zero or more.').max(100_000_000_000, 'That is too much.');
/** A quantity of a line, in thousandths. */
const quantity = () =>
  safe().min(1, 'How many?').max(2_000_000_000, 'That is too much.').required('How many?');

export const supplierSchema = object({
  name: string()
    .trim()
    .min(1, 'What are they called?')
    .max(80, 'A name has at most 80 characters.')
    .required('What are they called?'),
  active: boolean().default(true),
  contact: words(80),
  email: string().trim().email('That is no address.').max(120, 'At most 120 characters.').default(''),
  phone: words(40),
  street: words(120),
  postcode: words(12),
  city: words(80),
  account: words(40),
  daysToPay: whole().min(0, 'Zero or more.').max(365, 'At most 365.').default(30),
  leadDays: whole().min(0, 'Zero or more.').max(365, 'At most 365.').default(7),
  words: words(400),
});
export type WantedSupplier = InferType<typeof supplierSchema>;
export const changeSupplierSchema = object({
  supplier: supplierSchema.required(),
  version: whole().required(),
});

export interface SupplierRow {
  id: number;
  number: number;
  name: string;
  active: boolean;
  items: number;
  /** Open orders, and what is to come of them at their cost. */
  orders: number;
  toCome: number;
  lastDelivery: string | null;
}

export interface OrderRow {
  id: number;
  number: number;
  state: OrderState;
  supplierId: number;
  supplier: string;
  place: string;
  expectedOn: string | null;
  at: string;
  lines: { quantity: number; received: number }[];
  total: number;
}

export interface DeliveryRow {
  id: number;
  number: number;
  orderId: number | null;
  orderNumber: number | null;
  supplier: string;
  place: string;
  at: string;
  who: string;
  deliveryNote: string;
  cost: number;
  invoiceNumber: string | null;
}

/** How an item comes from a supplier. */
export interface SupplierItem {
  itemId: number;
  number: string;
  name: string;
  unit: string;
  theirNumber: string;
  cost: number | null;
  pack: number;
  least: number;
  first: boolean;
}

export interface SupplierPage {
  id: number;
  number: number;
  version: number;
  record: WantedSupplier;
  addedAt: string;
  items: SupplierItem[];
  orders: OrderRow[];
  deliveries: DeliveryRow[];
  reliability: Reliability;
  /** What came and is not invoiced, and what invoices ask for. */
  notInvoiced: number;
  owed: number;
}

/** How an item comes from a supplier, as somebody wants it; `null` as cost is unknown. */
export const itemSupplierSchema = object({
  supplierId: whole().required('From whom?'),
  theirNumber: words(40),
  cost: money().nullable().default(null),
  pack: safe().min(1, 'At least one.').max(2_000_000_000, 'That is too much.').default(1000),
  least: safe().min(0, 'Zero or more.').max(2_000_000_000, 'That is too much.').default(0),
  first: boolean().default(false),
});
export const reorderSchema = object({
  placeId: whole().required('Where?'),
  /** As it was looked at. */
  seen: object({ point: safe().nullable().defined(), target: safe().nullable().defined() }).required(),
  /** Both empty: it is not ordered by them any more. */
  point: safe().min(0, 'Zero or more.').max(2_000_000_000, 'That is too much.').nullable().default(null),
  target: safe().min(1, 'More than zero.').max(2_000_000_000, 'That is too much.').nullable().default(null),
});

export type WantedReorder = InferType<typeof reorderSchema>;

/** What the page of an item shows of how it comes, and what it cost. */
export interface ItemSupply {
  suppliers: {
    supplierId: number;
    supplier: string;
    theirNumber: string;
    cost: number | null;
    pack: number;
    least: number;
    first: boolean;
  }[];
  reorder: { placeId: number; place: string; point: number | null; target: number | null; onOrder: number }[];
  /**
   * Layers of which something is there, or whose cost nobody knows, the oldest first; none for those who see no
   * costs.
   */
  layers: LayerView[];
  /** What is there is worth; null for those who see no costs. */
  worth: number | null;
  /** All suppliers that are dealt with, for whoever adds one. */
  known: { id: number; name: string }[];
}

export interface LayerView {
  id: number;
  at: string;
  origin: string;
  place: string;
  quantity: number;
  cost: number;
  known: boolean;
  left: number;
  /** The delivery it came with. */
  delivery: { id: number; number: number } | null;
}

export const correctCostSchema = object({
  /** What all of the layer cost. */
  cost: safe()
    .min(-100_000_000_000, 'That is too much.')
    .max(100_000_000_000, 'That is too much.')
    .required('What did it cost?'),
  /** What it cost when somebody began to change it. */
  was: safe().required(),
  why: words(200),
});

const orderLineSchema = object({
  itemId: whole().required(),
  quantity: quantity(),
  unitCost: money().nullable().default(null),
  reason: string().max(300).default(''),
});
export const newOrderSchema = object({
  supplierId: whole().required('From whom?'),
  placeId: whole().required('For where?'),
  /** Begins with what is suggested; for so many days of cover where nobody set a reorder point. */
  suggested: boolean().default(true),
  cover: whole().min(0, 'Zero or more.').max(365, 'At most 365.').default(14),
});
export const changeOrderSchema = object({
  version: whole().required(),
  expectedOn: dayOrNothing().default(''),
  words: words(400),
  lines: array().of(orderLineSchema).max(MOST_ORDER_LINES, `At most ${MOST_ORDER_LINES} lines.`).required(),
});
export type ChangedOrder = InferType<typeof changeOrderSchema>;
export const orderVersionSchema = object({ version: whole().required(), mail: boolean().default(false) });

export interface OrderLineView {
  itemId: number;
  number: string;
  name: string;
  unit: string;
  decimals: number;
  serials: boolean;
  weight: number | null;
  codes: string[];
  theirNumber: string;
  pack: number;
  quantity: number;
  unitCost: number | null;
  received: number;
  reason: string;
}

export interface OrderPage extends Omit<OrderRow, 'lines'> {
  version: number;
  placeId: number;
  email: string;
  words: string;
  madeBy: string;
  sentAt: string | null;
  lines: OrderLineView[];
  deliveries: DeliveryRow[];
}

/** Something that can be put on an order, as it is found by its words or code. */
export interface OrderableItem extends Omit<OrderLineView, 'quantity' | 'received' | 'reason'> {
  available: number;
}

/** A delivery as it came. */
export const deliverySchema = object({
  version: whole().required(),
  deliveryNote: words(60),
  freight: money().default(0),
  spreadBy: string<SpreadBy>()
    .oneOf(Object.keys(SPREADS) as SpreadBy[])
    .default('value'),
  lines: array()
    .of(
      object({
        itemId: whole().required(),
        quantity: quantity(),
        damaged: safe().min(0, 'Zero or more.').default(0),
        /** What a unit costs; what is known of it where nobody says. */
        unitCost: money().nullable().default(null),
        serials: array().of(string().trim().required().max(40)).max(500, 'At most 500 at once.').default([]),
      }),
    )
    .min(1, 'Nothing came.')
    .max(MOST_ORDER_LINES, `At most ${MOST_ORDER_LINES} lines.`)
    .required(),
});
export type WantedDelivery = InferType<typeof deliverySchema>;

export interface DeliveryPage extends DeliveryRow {
  version: number;
  freight: number;
  spreadBy: SpreadBy;
  invoicedAt: string | null;
  invoiceTotal: number | null;
  lines: {
    itemId: number;
    number: string;
    name: string;
    unit: string;
    quantity: number;
    decimals: number;
    damaged: number;
    /** What went back to the supplier. */
    back: number;
    /** Its units have serial numbers. */
    serials: boolean;
    goodsCost: number;
    freight: number;
    layerId: number;
  }[];
  /** What went back, oldest first. */
  returns: {
    id: number;
    number: number;
    at: string;
    who: string;
    words: string;
    /** What it had cost. */
    cost: number;
    lines: { number: string; name: string; unit: string; quantity: number; serials: string[] }[];
  }[];
}

/** Goods of a delivery that go back; each line names that of the delivery by its place in it, from 0 on. */
export const supplierReturnSchema = object({
  words: string().trim().required('Why?').max(200, 'At most 200 characters.'),
  lines: array()
    .of(
      object({
        line: whole().min(0).required(),
        quantity: quantity(),
        serials: array().of(string().trim().required().max(40)).max(500, 'At most 500 at once.').default([]),
      }),
    )
    .min(1, 'What goes back?')
    .max(MOST_ORDER_LINES)
    .required(),
});
export type WantedSupplierReturn = InferType<typeof supplierReturnSchema>;

/** The supplier's invoice: what it asks for each line, and for the freight. */
export const invoiceSchema = object({
  version: whole().required(),
  number: string().trim().required('What is its number?').max(60, 'At most 60 characters.'),
  freight: money().required('Zero or more.'),
  lines: array().of(money().required('What does it cost?')).required(),
});
export type WantedInvoice = InferType<typeof invoiceSchema>;

/** So many orders, and deliveries, are shown of one supplier; the others are found among all. */
export const MOST_OF_SUPPLIER = 40;

/** Which orders are listed, or which deliveries: words of the supplier or the goods, or the number. */
export const ordersQuerySchema = listQuerySchema.shape({
  show: string<'open' | 'all' | 'deliveries'>().oneOf(['open', 'all', 'deliveries']).default('open'),
});
export type OrdersQuery = InferType<typeof ordersQuerySchema>;

export interface OrdersPage {
  /** What day it is where the shop is. */
  today: string;
  orders: OrderRow[];
  deliveries: DeliveryRow[];
  /** How many fit, on all pages. */
  count: number;
  suppliers: { id: number; name: string }[];
  places: { id: number; name: string; here: boolean }[];
}

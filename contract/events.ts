/** What the server says first, whenever a window begins to hear. */
export interface Hello {
  /** Which pages the server has: other ones after an update. */
  edition: string;
}

/** What the server tells all tills as it happens. */
export type HouseEvent =
  | { kind: 'sale-finished'; tillId: number; saleId: string }
  | { kind: 'sale-voided'; tillId: number; saleId: string }
  | { kind: 'stock-changed'; placeId: number; levels: [itemId: number, quantity: number][] }
  | { kind: 'catalogue-changed' }
  /** A supplier, an order to one, a delivery, or what goods cost. */
  | { kind: 'supply-changed' }
  /** A count, or what was counted. */
  | { kind: 'counts-changed'; countId: number }
  | { kind: 'shop-changed' }
  | { kind: 'basket-changed'; tillId: number; revision: number }
  | { kind: 'shelves-changed'; revision: number }
  | {
      kind: 'held-changed';
      /** The till that a basket was sent to. */
      forTill: number | null;
      /** The basket that was taken up, and where. */
      taken?: { id: string; tillId: number; words: string };
    }
  /** One was made, paid, handed over or cancelled. */
  | { kind: 'promises-changed' }
  /** One went out, or a partner has said something. */
  | { kind: 'relays-changed' }
  /** One was told something, or could not be. */
  | { kind: 'channels-changed' }
  /** What is known of one customer, or of many. */
  | { kind: 'people-changed'; customerId: number | null }
  /** A list of customers that is being imported has come further. */
  | { kind: 'import-changed'; id: string }
  | { kind: 'payment-changed'; tillId: number; basketId: string }
  | { kind: 'drawer-changed'; tillId: number }
  /** A message was refused for good. */
  | { kind: 'message-refused'; recipient: string; saleId: string | null; words: string }
  | { kind: 'printed'; tillId: number; jobId: number; saleId: string | null }
  /** A printer has begun or ceased to make trouble, or something waits for it or is in doubt. */
  | { kind: 'printer-changed'; tillId: number }
  /** One was made, or could not be. */
  | { kind: 'backups-changed' };

/** What somebody may be allowed to do, with the words that the rights table shows. */
export const RIGHTS = {
  sell: 'Ring up and take payment',
  'drawer.open': 'Open a drawer',
  'drawer.close': 'Count and close a drawer',
  'journal.see': 'See the journal and reprint receipts',
  'price.change': 'Type another price',
  'tax.exempt': 'Sell without tax',
  'open-price.large': 'Sell at an open price above the limit',
  'shelves.arrange': 'Arrange the shelves',
  'shop.set-up': 'Set up the shop',
} as const;

export type Right = keyof typeof RIGHTS;

export const ROLES = ['cashier', 'supervisor', 'manager'] as const;

export type Role = (typeof ROLES)[number];

const FOR_ALL: readonly Right[] = ['sell', 'drawer.open', 'drawer.close', 'journal.see'];

const MORE: readonly Right[] = ['price.change', 'tax.exempt', 'open-price.large', 'shelves.arrange'];

/** The rights of each role as they come. */
export const ROLE_RIGHTS: Readonly<Record<Role, readonly Right[]>> = {
  cashier: FOR_ALL,
  supervisor: [...FOR_ALL, ...MORE],
  manager: [...FOR_ALL, ...MORE, 'shop.set-up'],
};

/** What somebody may be allowed to do, with the words that the rights table shows. */
export const RIGHTS = {
  sell: 'Ring up and take payment',
  'drawer.open': 'Open a drawer',
  'drawer.close': 'Count and close a drawer',
  'journal.see': 'See the journal and reprint receipts',
  'shop.set-up': 'Set up the shop',
} as const;

export type Right = keyof typeof RIGHTS;

export const ROLES = ['cashier', 'supervisor', 'manager'] as const;

export type Role = (typeof ROLES)[number];

const FOR_ALL: readonly Right[] = ['sell', 'drawer.open', 'drawer.close', 'journal.see'];

/** The rights of each role as they come. */
export const ROLE_RIGHTS: Readonly<Record<Role, readonly Right[]>> = {
  cashier: FOR_ALL,
  supervisor: FOR_ALL,
  manager: [...FOR_ALL, 'shop.set-up'],
};

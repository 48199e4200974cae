/** What somebody may be allowed to do, with the words that the rights table shows. */
export const RIGHTS = {
  sell: 'Ring up and take payment',
  'drawer.open': 'Open a drawer',
  'drawer.close': 'Count and close a drawer',
  'journal.see': 'See the journal and reprint receipts',
  'price.change': 'Type another price',
  'discount.large': 'Give more discount than the limit of the role',
  'tax.exempt': 'Sell without tax',
  'open-price.large': 'Sell at an open price above the limit',
  'line.remove-late': 'Take goods out after payment began',
  'return.take': 'Take goods back with their receipt',
  'return.late': 'Take goods back after the time for returns',
  'return.large': 'Refund more than the limit of the role',
  'refund.cash': 'Refund in cash what was paid otherwise',
  'sale.void': 'Void a sale of the shift',
  'return.no-receipt': 'Take goods back without their receipt',
  'drawer.no-sale': 'Open the drawer without a sale',
  'drawer.cash-move': 'Put cash in or take it out',
  'drawer.drop': 'Drop cash into the safe',
  'drawer.close-any': "Count and close other tills' drawers",
  'drawer.expected': 'See what a blind count is compared with',
  'payment.undo': 'Undo a payment before the sale is finished',
  'fee.waive': 'Keep less than the agreed fee when something is cancelled',
  'order.unpaid': 'Let an order go on without its deposit',
  'gift-card.manage': 'Freeze, move, import and list gift cards',
  'card.list': 'See card payments and settle them',
  'people.edit': 'Change customers, and give out and stop their cards',
  'points.correct': 'Give and take points by hand',
  'account.over-limit': 'Let a house account go over its limit',
  'account.pay-out': 'Pay out what is over on a house account',
  'account.manage': 'Open, change and look after house accounts',
  'account.write-off': 'Write off what will not be paid',
  'people.manage': 'Import, export, merge and forget customers, and set groups up',
  'goods.edit': 'Look after goods: add and change items, their codes and prices',
  'goods.import': 'Import and export goods',
  'stock.move': 'Put stock right by hand, send it to other places, and book counts',
  'stock.large': 'Put more stock right than the limit of the role',
  'stock.count': 'Count goods',
  'goods.order': 'Look after suppliers and order goods',
  'goods.receive': 'Take deliveries in',
  'goods.cost': 'See and correct what goods cost',
  'shelves.arrange': 'Arrange the shelves',
  'offers.edit': 'Write offers and switch them on and off',
  'shift.history': 'See the history of shifts, with over and short',
  'figures.see': 'See what the shop did: its figures and reports',
  'books.see': "See and export the shop's books",
  'shop.set-up': 'Set up the shop',
} as const;

export type Right = keyof typeof RIGHTS;

/** What somebody is told who has not got a right, and what helps. */
export const mayNotWords = (name: string, right: Right): [words: string, help: string] => [
  `${name} may not do this: ${RIGHTS[right]}.`,
  'Ask someone with more rights to sign in.',
];

export const ROLES = ['cashier', 'supervisor', 'manager'] as const;

export type Role = (typeof ROLES)[number];

const FOR_ALL: readonly Right[] = [
  'sell',
  'drawer.open',
  'drawer.close',
  'drawer.drop',
  'journal.see',
  'payment.undo',
  'return.take',
  'people.edit',
  'stock.count',
];

const MORE: readonly Right[] = [
  'return.late',
  'return.large',
  'refund.cash',
  'sale.void',
  'drawer.close-any',
  'drawer.expected',
  'price.change',
  'discount.large',
  'tax.exempt',
  'open-price.large',
  'line.remove-late',
  'return.no-receipt',
  'drawer.no-sale',
  'drawer.cash-move',
  'fee.waive',
  'order.unpaid',
  'points.correct',
  'account.over-limit',
  'account.pay-out',
  'account.manage',
  'gift-card.manage',
  'card.list',
  'goods.edit',
  'stock.move',
  'goods.order',
  'goods.receive',
  'shelves.arrange',
];

/**
 * Whether somebody deals with the drawer and the payments of a till: their own, or any with the right to close
 * others.
 */
export const mayActFor = (person: { tillId: number; rights: readonly Right[] }, tillId: number): boolean =>
  person.tillId === tillId || person.rights.includes('drawer.close-any');

/** The rights of each role as they come. */
export const ROLE_RIGHTS: Readonly<Record<Role, readonly Right[]>> = {
  cashier: FOR_ALL,
  supervisor: [...FOR_ALL, ...MORE],
  manager: [
    ...FOR_ALL,
    ...MORE,
    'account.write-off',
    'people.manage',
    'goods.import',
    'goods.cost',
    'stock.large',
    'offers.edit',
    'shift.history',
    'figures.see',
    'books.see',
    'shop.set-up',
  ],
};

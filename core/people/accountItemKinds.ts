/** What stands on a house account: what was charged and what was paid, and how it came there. */
export const ACCOUNT_ITEM_KINDS = [
  'opening',
  'charge',
  'payment',
  'refund',
  'paid out',
  'bank',
  'written off',
  'void',
] as const;

export type AccountItemKind = (typeof ACCOUNT_ITEM_KINDS)[number];

export const ACCOUNT_ITEM_WORDS: Readonly<Record<AccountItemKind, string>> = {
  opening: 'From before',
  charge: 'Charge',
  payment: 'Payment',
  refund: 'Goods came back',
  'paid out': 'Paid out',
  bank: 'Bank transfer',
  'written off': 'Written off',
  void: 'Voided',
};

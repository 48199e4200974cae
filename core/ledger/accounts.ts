/** The accounts of the shop's books. `subject` says which drawer, tax rate or person an entry is about. */
export const ACCOUNTS = {
  cash: 'Cash in a drawer, per till',
  safe: 'Cash in the safe',
  'bank-in-transit': 'Cash on its way to the bank',
  'petty-cash': 'Cash put in or taken out without a sale',
  receivable: 'What customers owe, per customer',
  'store-credit': 'What the shop owes customers, per customer',
  'opening-balance': 'Balances from before the shop began with these books',
  sales: 'Sales without tax',
  'tax-payable': 'Tax payable, per rate',
  'over-short': 'Drawer over and short, per till',
} as const;

export type Account = keyof typeof ACCOUNTS;

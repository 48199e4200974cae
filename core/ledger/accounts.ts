/** The accounts of the shop's books. `subject` says which drawer, tax rate or person an entry is about. */
export const ACCOUNTS = {
  cash: 'Cash in a drawer, per till',
  safe: 'Cash in the safe',
  'bank-in-transit': 'Cash on its way to the bank',
  sales: 'Sales without tax',
  'tax-payable': 'Tax payable, per rate',
  'over-short': 'Drawer over and short, per till',
} as const;

export type Account = keyof typeof ACCOUNTS;

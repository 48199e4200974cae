/** The accounts of the shop's books. `subject` says which drawer, tax rate or person an entry is about. */
export const ACCOUNTS = {
  cash: 'Cash in a drawer, per till',
  safe: 'Cash in the safe',
  'bank-in-transit': 'Cash on its way to the bank',
  'foreign-cash': 'Cash of another currency in a drawer, per till, at its worth',
  'card-clearing': 'Card payments that the bank has not paid out, per terminal',
  'channel-clearing': 'What customers paid where they ordered and the shop has not got yet, per channel',
  cheques: 'Cheques that have not been paid in',
  transfers: 'Transfers that customers have announced',
  vouchers: 'Vouchers that others have to pay',
  'card-fees': 'What the bank keeps of card payments',
  'channel-fees': 'What channels keep of what customers paid there',
  'partner-parts': 'What partners get of what was passed on to them',
  'petty-cash': 'Cash put in or taken out without a sale',
  receivable: 'What customers owe, per customer',
  'store-credit': 'What the shop owes customers, per customer',
  'stored-value': 'Gift cards and certificates that can still be used, per kind',
  'customer-deposits': 'What customers have paid for goods that wait, per promise',
  'lapsed-value': 'Gift cards and certificates that lapsed',
  'partner-clearing':
    'What is owed to partners for what they delivered, less what they owe for what they passed on, per partner',
  'tips-payable': 'Tips that are to be handed on',
  'donations-payable': 'Donations that are to be handed on, per fund',
  'cash-rounding': 'What cash was rounded by',
  'write-offs': 'What customers owed and will not pay',
  'opening-balance': 'Balances from before the shop began with these books',
  sales: 'Sales without tax, before discounts',
  returns: 'What was refunded for goods that came back, without tax',
  discounts: 'Reductions, per kind',
  'tax-payable': 'Tax payable, per rate',
  'over-short': 'Drawer over and short, per till',
} as const;

/** What is posted to the books. */
export const LEDGER_EVENTS = [
  'opening',
  'shift-opened',
  'sale',
  'void',
  'cash-move',
  'correction',
  'shift-closed',
  'settlement',
  'stored-value',
  'channel-payment',
  'channel-settlement',
  'relay-delivered',
  'partner-order',
  'partner-settlement',
  'merge',
  'account',
] as const;

export type LedgerEventKind = (typeof LEDGER_EVENTS)[number];

export type Account = keyof typeof ACCOUNTS;

/** What kind of account it is: what the shop has, owes, earns and spends. */
export type AccountClass = 'assets' | 'liabilities' | 'equity' | 'income' | 'expenses';

export const ACCOUNT_CLASSES: Readonly<Record<Account, AccountClass>> = {
  cash: 'assets',
  safe: 'assets',
  'bank-in-transit': 'assets',
  'foreign-cash': 'assets',
  'card-clearing': 'assets',
  'channel-clearing': 'assets',
  cheques: 'assets',
  transfers: 'assets',
  vouchers: 'assets',
  receivable: 'assets',
  'card-fees': 'expenses',
  'channel-fees': 'expenses',
  'partner-parts': 'expenses',
  'petty-cash': 'expenses',
  'write-offs': 'expenses',
  'store-credit': 'liabilities',
  'stored-value': 'liabilities',
  'customer-deposits': 'liabilities',
  'lapsed-value': 'income',
  'partner-clearing': 'liabilities',
  'tips-payable': 'liabilities',
  'donations-payable': 'liabilities',
  'cash-rounding': 'expenses',
  'opening-balance': 'equity',
  sales: 'income',
  returns: 'income',
  discounts: 'income',
  'tax-payable': 'liabilities',
  'over-short': 'expenses',
};

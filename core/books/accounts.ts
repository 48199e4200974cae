import { STORED_VALUE_NAMES } from '../giftCards/storedValue.ts';
import { REDUCTION_WORDS } from '../pricing/priceRecord.ts';

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
  'points-payable': 'What points of customers are worth that will be used',
  'points-cost': 'What points that customers earn cost, less what was taken back',
  'donations-payable': 'Donations that are to be handed on, per fund',
  'cash-rounding': 'What cash was rounded by',
  'write-offs': 'What customers owed and will not pay',
  'opening-balance': 'Balances from before the shop began with these books',
  sales: 'Sales without tax, before discounts',
  returns: 'What was refunded for goods that came back, without tax',
  discounts: 'Reductions, per kind',
  'tax-payable': 'Tax payable, per rate',
  'over-short': 'Drawer over and short, per till',
  stock: 'Goods at what they cost, per place',
  'stock-on-way': 'Goods on the way from a place to another, at what they cost',
  'cost-of-goods': 'What goods that were sold cost',
  shrinkage: 'What goods that broke, went missing or were found cost',
  'own-use': 'What goods that the shop used itself cost',
  'goods-received': 'Goods that came and are not invoiced yet, per supplier',
  suppliers: 'What is owed to suppliers by their invoices, per supplier',
} as const;

/** What is posted to the books, in words. */
export const LEDGER_EVENT_WORDS = {
  opening: 'From before these books',
  'shift-opened': 'Shift opened',
  sale: 'Sale',
  void: 'Void of the sale',
  'cash-move': 'Cash in or out',
  correction: 'Correction',
  'shift-closed': 'Shift closed',
  settlement: 'The bank paid cards out',
  'stored-value': 'Gift cards',
  'channel-payment': 'Paid where it was ordered',
  'channel-settlement': 'A channel paid out',
  'relay-delivered': 'A partner delivered',
  'partner-order': 'Delivered for a partner',
  'partner-settlement': 'Settled with a partner',
  merge: 'Two records of a customer became one',
  account: 'House account',
  points: 'Points',
  stock: 'Goods moved',
  receipt: 'Goods came',
  invoice: 'Invoice of a supplier',
  'cost-corrected': 'Cost put right',
  'supplier-return': 'Goods went back to a supplier',
  count: 'Goods were counted',
} as const;

export type LedgerEventKind = keyof typeof LEDGER_EVENT_WORDS;
export const LEDGER_EVENTS = Object.keys(LEDGER_EVENT_WORDS) as LedgerEventKind[];

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
  'points-payable': 'liabilities',
  'points-cost': 'expenses',
  'donations-payable': 'liabilities',
  'cash-rounding': 'expenses',
  'opening-balance': 'equity',
  sales: 'income',
  returns: 'income',
  discounts: 'income',
  'tax-payable': 'liabilities',
  'over-short': 'expenses',
  stock: 'assets',
  'stock-on-way': 'assets',
  'cost-of-goods': 'expenses',
  shrinkage: 'expenses',
  'own-use': 'expenses',
  'goods-received': 'liabilities',
  suppliers: 'liabilities',
};

/** What subjects are that are kinds of something. */
const KINDS: Readonly<Record<string, string>> = { ...STORED_VALUE_NAMES, ...REDUCTION_WORDS };

/**
 * What an account is called, and what it is about there.
 * @param names what drawers, people, rates … are called, by their subject
 */
export function accountWords(account: Account, subject: string, names: ReadonlyMap<string, string>): string {
  if (!subject) return ACCOUNTS[account];
  // Whose account it is follows; that there is one for each need not be said.
  const about = names.get(subject) ?? KINDS[subject] ?? subject;
  return `${ACCOUNTS[account].replace(/, per [a-z]+/, '')} · ${about}`;
}

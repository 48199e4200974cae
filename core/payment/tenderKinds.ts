/** What the till and the books know of a way to pay. */
interface TenderKindFacts {
  /** As the settings name it. */
  words: string;
  /** The shop has one of it, which belongs to it as it comes. */
  onlyOnce: boolean;
  /** Where the money is afterwards: one of the accounts of the books, which see to it that there is such a one. */
  account: string;
  /** What the books tell such payments apart by: the drawer that it lies in, or whose it is. */
  by: 'till' | 'terminal' | 'value' | 'account' | 'type';
  /** Lies in the drawer: change is given on it, in the shop's own money. */
  inDrawer: boolean;
  /** A device answers whether it is taken. */
  asksDevice: boolean;
  /** What the key says that takes it. @param name as the shop calls this means of payment */
  take(name: string): string;
  /** What is said once it is undone. @param of `amount` with its decimals; `value` as its kind of card is called */
  undone(of: { amount: string; value: string }): string;
}

const named = (name: string): string => `Take ${name}`;
const giveBack = ({ amount }: { amount: string }): string => `Give ${amount} back.`;

/** How money comes in. A new kind is one entry here, and the form in which the till asks for it. */
export const TENDER_KINDS = {
  cash: {
    words: 'Cash',
    onlyOnce: true,
    account: 'cash',
    by: 'till',
    inDrawer: true,
    asksDevice: false,
    take: () => 'Cash taken',
    undone: giveBack,
  },
  card: {
    words: 'Card, on a terminal of the till',
    onlyOnce: true,
    account: 'card-clearing',
    by: 'terminal',
    inDrawer: false,
    asksDevice: true,
    take: () => 'Ask the terminal',
    undone: giveBack,
  },
  'stored-value': {
    words: 'Gift card, certificate or store credit',
    onlyOnce: true,
    account: 'stored-value',
    by: 'value',
    inDrawer: false,
    asksDevice: false,
    take: () => 'Take from it',
    undone: ({ value }) => `Back on the ${value}.`,
  },
  account: {
    words: 'House account of the customer',
    onlyOnce: true,
    account: 'receivable',
    by: 'account',
    inDrawer: false,
    asksDevice: false,
    take: () => 'Charge it',
    undone: () => 'It is not charged.',
  },
  'noted-card': {
    words: 'Card, on a terminal that is not attached',
    onlyOnce: false,
    account: 'card-clearing',
    by: 'type',
    inDrawer: false,
    asksDevice: false,
    take: named,
    undone: giveBack,
  },
  cheque: {
    words: 'Cheque',
    onlyOnce: false,
    account: 'cheques',
    by: 'type',
    inDrawer: false,
    asksDevice: false,
    take: named,
    undone: giveBack,
  },
  transfer: {
    words: 'Bank transfer',
    onlyOnce: false,
    account: 'transfers',
    by: 'type',
    inDrawer: false,
    asksDevice: false,
    take: named,
    undone: giveBack,
  },
  'foreign-cash': {
    words: 'Cash in another currency',
    onlyOnce: false,
    account: 'foreign-cash',
    by: 'till',
    inDrawer: true,
    asksDevice: false,
    take: named,
    undone: giveBack,
  },
  voucher: {
    words: 'Voucher',
    onlyOnce: false,
    account: 'vouchers',
    by: 'type',
    inDrawer: false,
    asksDevice: false,
    take: named,
    undone: giveBack,
  },
} as const satisfies Record<string, TenderKindFacts>;

export type TenderKind = keyof typeof TENDER_KINDS;

/** What is known of a kind. */
export const tenderKind = (kind: TenderKind): TenderKindFacts => TENDER_KINDS[kind];

/** What a new shop has done so far. */
export interface SetupProgress {
  /** Lines at the top of receipts. */
  receiptWords: number;
  /** People who can sign in, the first manager included. */
  staff: number;
  /** Rates of tax in force or to come. */
  taxRates: number;
  /** Tax categories. */
  taxCategories: number;
  items: number;
  /** Items that lie there or were sold, and of which nobody knows the cost. */
  withoutCost: number;
  tiles: number;
  /** Shifts that were ever opened. */
  shifts: number;
  sales: number;
}

export interface ChecklistStep {
  words: string;
  /** How it is done. */
  advice: string;
  /** Where it is done. */
  to: string;
  done: boolean;
}

/** The way from an empty shop to the first sale, in the order in which it is best gone. */
export function setupChecklist(progress: SetupProgress): ChecklistStep[] {
  return [
    {
      words: 'Address and words on receipts',
      advice: 'In Setup, under Receipts.',
      to: '/setup/receipts',
      done: progress.receiptWords > 1,
    },
    {
      words: 'Taxes',
      advice: 'A category for everything you sell, with its rate.',
      to: '/setup/taxes',
      done: progress.taxRates > 0 || progress.taxCategories > 1,
    },
    {
      words: 'People',
      advice: 'Give everybody at the counter a PIN of their own.',
      to: '/setup/staff',
      done: progress.staff > 1,
    },
    {
      words: 'Goods',
      advice: 'Scan what you sell, one after the other, and type what it is called and costs.',
      to: '/goods/new',
      done: progress.items > 0,
    },
    {
      words: 'What goods cost',
      advice: 'On each item, or with its delivery: Figures say what you earn by it.',
      to: '/goods',
      done: progress.withoutCost < progress.items,
    },
    {
      words: 'Shelves',
      advice: 'Tiles for goods without a label: press Arrange at the Counter.',
      to: '/counter',
      done: progress.tiles > 0,
    },
    {
      words: 'First drawer',
      advice: 'Count the float and open it.',
      to: '/drawer',
      done: progress.shifts > 0,
    },
    { words: 'First sale', advice: 'Ring something up.', to: '/counter', done: progress.sales > 0 },
  ];
}

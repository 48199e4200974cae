/**
 * What is counted with each sale, by till, day and hour. Each has a subject, and up to four numbers; amounts are
 * without tax.
 */
export const FIGURE_KINDS = {
  sale: 'Goods sold less what came back, by person: sales, quantity, amount, and what the goods cost',
  category: 'The same by category of the goods: lines, quantity, amount, cost',
  customer: 'The same by whether the customer is known, new or unnamed',
  return: 'Goods that came back, by reason: lines, quantity, amount, cost',
  off: 'Reductions by what they are: how often, nothing, what was taken off, what the goods earned all the same',
  'off-by': 'Reductions that were typed, by person: how often, nothing, what was taken off, what was earned',
  means: 'Payments by means: how many, nothing, amount with tax, tips',
  tax: 'Tax by rate: sales, nothing, tax, what it was asked on',
  exempt: 'Sales without tax by reason: sales, nothing, amount',
  donation: 'Donations by fund: how many, nothing, amount',
  value: 'Gift cards and certificates that were sold, by kind: how many, nothing, amount',
  deposit: 'Deposits of promises and money on accounts, by what was done: lines, nothing, amount',
  void: 'Sales that were undone, by person: how many, nothing, their total',
} as const;

export type FigureKind = keyof typeof FIGURE_KINDS;

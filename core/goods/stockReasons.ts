/** Why stock moves. */
export const STOCK_REASONS = [
  'opening',
  'sale',
  'return',
  'damaged',
  'to-supplier',
  'void',
  'sent',
  'arrived',
  'received',
  'found',
  'missing',
  'own-use',
  'counted',
  'revalued',
] as const;

export type StockReason = (typeof STOCK_REASONS)[number];

/** Accounts that face stock when it moves. */
type Against = 'goods-received' | 'shrinkage' | 'opening-balance' | 'own-use';

/** Reasons for which somebody puts stock right by hand, which way goods go, and against what the books post it. */
export const BY_HAND = {
  received: { words: 'Received', sign: 1, against: 'goods-received' },
  found: { words: 'Found', sign: 1, against: 'shrinkage' },
  opening: { words: 'Was here before', sign: 1, against: 'opening-balance' },
  missing: { words: 'Missing', sign: -1, against: 'shrinkage' },
  damaged: { words: 'Damaged', sign: -1, against: 'shrinkage' },
  'own-use': { words: 'Used by the shop', sign: -1, against: 'own-use' },
  'to-supplier': { words: 'To the supplier', sign: -1, against: 'goods-received' },
} as const satisfies Partial<Record<StockReason, { words: string; sign: 1 | -1; against: Against }>>;

export type ReasonByHand = keyof typeof BY_HAND;

/** What each reason is called in the history of an item. */
export const REASON_WORDS: Readonly<Record<StockReason, string>> = {
  opening: 'Was here before',
  sale: 'Sold',
  return: 'Came back',
  damaged: 'Damaged',
  'to-supplier': 'To the supplier',
  void: 'Voided',
  sent: 'Sent',
  arrived: 'Arrived',
  received: 'Received',
  found: 'Found',
  missing: 'Missing',
  'own-use': 'Used by the shop',
  counted: 'Counted',
  revalued: 'Cost corrected',
};

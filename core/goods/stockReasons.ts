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
] as const;

export type StockReason = (typeof STOCK_REASONS)[number];

/** Reasons for which somebody puts stock right by hand, and which way goods go. */
export const BY_HAND = {
  received: { words: 'Received', sign: 1 },
  found: { words: 'Found', sign: 1 },
  opening: { words: 'Was here before', sign: 1 },
  missing: { words: 'Missing', sign: -1 },
  damaged: { words: 'Damaged', sign: -1 },
  'own-use': { words: 'Used by the shop', sign: -1 },
} as const satisfies Partial<Record<StockReason, { words: string; sign: 1 | -1 }>>;

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
};

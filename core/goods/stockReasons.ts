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
] as const;

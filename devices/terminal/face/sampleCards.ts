import type { CardFacts } from '../driver.ts';

/** Cards that lie beside the stand-in, to try things with. Brands are made up. */
export const SAMPLE_CARDS: readonly (Omit<CardFacts, 'token'> & { id: string; needsPin: boolean })[] = [
  { id: 'harbour', brand: 'Harbour', lastFour: '4821', kind: 'credit', needsPin: true },
  { id: 'lantern', brand: 'Lantern', lastFour: '1190', kind: 'credit', needsPin: false },
  { id: 'tideway', brand: 'Tideway', lastFour: '7306', kind: 'debit', needsPin: true },
];

/** What the bank behind the stand-in answers. */
export const BANK_ANSWERS = {
  approve: 'Approves',
  partial: 'Approves a part',
  'no-funds': 'Declines: not enough money',
  expired: 'Declines: card expired',
  blocked: 'Declines: card blocked',
  'over-limit': 'Declines: above the limit of the card',
} as const;

export type BankAnswer = keyof typeof BANK_ANSWERS;

/** How well the stand-in is connected. */
export const LINES = {
  good: 'Good connection',
  late: 'The answer comes late',
  lost: 'Connection lost',
} as const;

export type Line = keyof typeof LINES;

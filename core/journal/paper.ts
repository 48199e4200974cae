/**
 * What is printed, as a document: the same rows are drawn on screen, set as text for a printer and as PDF.
 */
export type PaperRow =
  /** A picture as a data URL. */
  | { kind: 'logo'; source: string; alt: string }
  | { kind: 'title'; text: string }
  | { kind: 'centre'; text: string }
  | { kind: 'text'; text: string }
  | { kind: 'pair'; left: string; right: string; strong?: boolean; indent?: boolean }
  | { kind: 'rule' }
  | { kind: 'gap' }
  | { kind: 'barcode'; text: string }
  | { kind: 'signature'; path: string; label: string };

/** What goes to a printer. */
export const PRINT_KINDS = [
  'receipt',
  'copy',
  'gift-receipt',
  'shift-report',
  'hold-ticket',
  'layaway',
  'order',
  'pick-list',
  'packing-slip',
  'relay',
  'drawer-opening',
  'cash-slip',
  'drawer-only',
  'gift-card',
  'void-slip',
  'handover-slip',
  'test-page',
] as const;

export type PrintKind = (typeof PRINT_KINDS)[number];

export interface Paper {
  title: string;
  rows: PaperRow[];
}

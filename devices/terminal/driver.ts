/** How the card was held to the terminal. */
export type CardEntry = 'tap' | 'insert' | 'swipe' | 'keyed' | 'on-file';

/** What may be known of a card: never its number. */
export interface CardFacts {
  /** Stands for the card at the bank; worthless elsewhere. */
  token: string;
  /** The brand in a word. */
  brand: string;
  lastFour: string;
  kind: 'credit' | 'debit';
}

/** What a terminal is asked to take. The reference makes asking twice harmless. */
export interface TerminalRequest {
  reference: string;
  /** Who asks, as the terminal shows it, e.g. `Till 2`. */
  from: string;
  /** Minor units. */
  amount: number;
  currency: string;
  digits: number;
  /** Parts of the amount, in parts per million, that may be added as a tip; empty where none is asked for. */
  tips: readonly number[];
  /** What rounds the total up for a fund, where the customer is to be asked. */
  roundUp: { amount: number; fund: string } | null;
  /** The customer is not there: the number is keyed on the terminal. */
  notPresent: boolean;
  /** A card on file to take it from, without the card. */
  token: string | null;
}

/** Where a payment stands, as the terminal has it. */
export interface TerminalAnswer {
  reference: string;
  state: 'unknown' | 'waiting' | 'approved' | 'declined' | 'cancelled' | 'reversed';
  /** What the terminal shows, or why it declined, in words. */
  words: string;
  /** What was approved for the goods; a part of what was asked where the card holds no more. */
  amount: number;
  tip: number;
  roundUp: number;
  entry: CardEntry | null;
  card: CardFacts | null;
  /** The bank's code for the approval. */
  approval: string;
  /** How the holder proved who they are. */
  proof: 'none' | 'pin' | 'signature';
  /** A drawn signature as the path of an SVG picture, or nothing. */
  signature: string;
  /** When it was decided, ISO 8601, or nothing. */
  at: string;
}

/** What was paid out to the shop's bank for a day. */
export interface SettlementBatch {
  /** Number of the batch at the terminal. */
  number: string;
  at: string;
  entries: {
    reference: string;
    amount: number;
    tip: number;
    roundUp: number;
    refund: boolean;
    fee: number;
  }[];
}

/** The terminal cannot be reached: what was asked may or may not have got there. */
export class TerminalUnreachable extends Error {}

/** Somebody else's payment is on it. */
export class TerminalBusy extends Error {}

/** The terminal says no, in words. */
export class TerminalRefusal extends Error {}

/**
 * Card terminals, each known by its serial number.
 * All calls but `onAnswer` may throw TerminalUnreachable.
 */
export interface TerminalDriver {
  /** Pairs with the terminal that shows a code. @returns its serial number. @throws TerminalRefusal */
  pair(code: string): Promise<string>;
  /** Begins a payment; its answer comes later. @throws TerminalBusy */
  ask(serial: string, request: TerminalRequest): Promise<void>;
  /** Asks for a payment to be called off; what was approved meanwhile stays approved. */
  cancel(serial: string, reference: string): Promise<void>;
  status(serial: string, reference: string): Promise<TerminalAnswer>;
  /** Takes a payment back as if it had not been, without the card. @throws TerminalRefusal */
  reverse(serial: string, reference: string): Promise<TerminalAnswer>;
  /** Gives money back to a card by its token. @throws TerminalRefusal */
  refund(
    serial: string,
    refund: { reference: string; token: string; amount: number },
  ): Promise<TerminalAnswer>;
  /** Every payment since an instant, oldest first. */
  list(serial: string, since: string): Promise<TerminalAnswer[]>;
  /**
   * Ends the day: what has not been settled is paid out. @param after number of the last batch that the shop knows, or
   * nothing @returns every batch since, so that one whose answer got lost is told again
   */
  settle(serial: string, after: string): Promise<SettlementBatch[]>;
  /** Hears of answers as they come; the same one may come twice. @returns a function that stops it */
  onAnswer(hear: (serial: string, answer: TerminalAnswer) => void): () => void;
}

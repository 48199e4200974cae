import { sum, type Money } from '../money.ts';

/**
 * Where one payment stands. It is stored in `stored` before any device is asked, and again when it answers.
 * `unanswered`: nobody knows yet whether the money was taken. `abandoned`: the till has gone on without the answer;
 * money that was taken after all goes back by itself.
 */
export type TenderState =
  | 'stored'
  | 'asked'
  | 'approved'
  | 'declined'
  | 'cancelled'
  | 'unanswered'
  | 'abandoned'
  | 'undoing'
  | 'undone';

/** What may happen to a payment. */
export type TenderEvent = (typeof TENDER_EVENTS)[number];

const STEPS: Readonly<Record<TenderState, Partial<Record<TenderEvent, TenderState>>>> = {
  stored: { ask: 'asked', approve: 'approved', cancel: 'cancelled' },
  asked: { approve: 'approved', decline: 'declined', cancel: 'cancelled', silence: 'unanswered' },
  unanswered: { approve: 'approved', decline: 'declined', cancel: 'cancelled', abandon: 'abandoned' },
  // An approval that comes too late is sent back at once.
  abandoned: { approve: 'undoing', decline: 'declined', cancel: 'cancelled' },
  approved: { undo: 'undoing' },
  undoing: { 'sent-back': 'undone', 'not-sent-back': 'approved' },
  declined: {},
  cancelled: {},
  undone: {},
};

/** Where a payment stands, in words. */
export const TENDER_STATE_WORDS: Readonly<Record<TenderState, string>> = {
  stored: 'Not asked yet',
  asked: 'Being asked',
  approved: 'Approved',
  declined: 'Declined',
  cancelled: 'Cancelled',
  unanswered: 'No answer yet',
  abandoned: 'Gone on without an answer',
  undoing: 'Being sent back',
  undone: 'Sent back',
};
export const TENDER_STATES = Object.keys(STEPS) as TenderState[];

export const TENDER_EVENTS = [
  'ask',
  'approve',
  'decline',
  'cancel',
  'silence',
  'abandon',
  'undo',
  'sent-back',
  'not-sent-back',
] as const;

/**
 * The state after something has happened; `null` where that means nothing any more: a device that answers twice, or
 * late, changes nothing.
 */
export function tenderStep(state: TenderState, event: TenderEvent): TenderState | null {
  return STEPS[state][event] ?? null;
}

/** What a step on one payment is judged by, read while the payment of its basket is locked. */
export interface PaymentFacts {
  state: TenderState;
  /** The sale of the basket is finished. */
  finished: boolean;
  /** That sale is being voided. */
  voiding: boolean;
  /** It sends back what came after the till had gone on. */
  sendsBack: boolean;
}

/**
 * Whether a step may be taken on a payment. What is finished is undone by a void or a new return only; what the till
 * went on without goes back whatever became of the sale.
 */
export function mayStep({ state, finished, voiding, sendsBack }: PaymentFacts, event: TenderEvent): boolean {
  if (!finished) return true;
  if (event === 'undo') return false;
  return voiding || sendsBack || state === 'abandoned' || state === 'undoing';
}

/** Money may still be taken, or may have been taken without anybody knowing. */
export const isOpen = (state: TenderState): boolean =>
  state === 'stored' || state === 'asked' || state === 'unanswered' || state === 'undoing';

/** The money is here, or may be: it counts against what is due. */
export const holdsMoney = (state: TenderState): boolean => state === 'approved' || isOpen(state);

/** A payment with what it holds. */
export interface HeldTender {
  state: TenderState;
  amount: Money;
}

/** What has been taken for certain. */
export function taken(tenders: readonly HeldTender[]): Money {
  return sum(tenders.filter(({ state }) => state === 'approved').map(({ amount }) => amount));
}

/**
 * What may still be taken: what is due less everything that was or may have been taken. Below zero when too much was.
 */
export function mayBeTaken(due: Money, tenders: readonly HeldTender[]): Money {
  return due - sum(tenders.filter(({ state }) => holdsMoney(state)).map(({ amount }) => amount));
}

/** Whether the sale can be finished: exactly covered, and no device still asked. */
export function covers(due: Money, tenders: readonly HeldTender[]): boolean {
  return taken(tenders) === due && !tenders.some(({ state }) => isOpen(state));
}

/** Splits an amount evenly: parts differ by at most one minor unit, the larger ones first. @param parts above zero */
export function splitEvenly(amount: Money, parts: number): Money[] {
  const least = Math.floor(amount / parts);
  const larger = amount - least * parts;
  return Array.from({ length: parts }, (_, at) => least + (at < larger ? 1 : 0));
}

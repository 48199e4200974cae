import type { CardEntry, CardFacts, TerminalAnswer, TerminalRequest } from '../driver.ts';
import type { BankAnswer, Line } from './sampleCards.ts';

/** What the customer does next. */
export type TerminalStep =
  'idle' | 'round-up' | 'tip' | 'card' | 'key-card' | 'pin' | 'signature' | 'working' | 'result';

/** What the face of a terminal shows. */
export interface TerminalFace {
  serial: string;
  /** Shown until it is paired. */
  pairingCode: string | null;
  step: TerminalStep;
  request: TerminalRequest | null;
  answer: TerminalAnswer | null;
  line: Line;
  bank: BankAnswer;
  /** What a partial approval gives, in parts per million. */
  partialRate: number;
}

/** What is pressed on the face of a terminal. */
export type TerminalPress =
  | { press: 'round-up'; yes: boolean }
  | { press: 'tip'; amount: number }
  | { press: 'card'; entry: CardEntry; cardId: string }
  | { press: 'keyed'; card: CardFacts }
  | { press: 'pin'; right: boolean }
  | { press: 'signature'; path: string }
  | { press: 'stop' }
  | { press: 'answer-now' }
  | { press: 'set'; line?: Line; bank?: BankAnswer; partialRate?: number }
  | { press: 'wake' };

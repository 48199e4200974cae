import type { PaymentTender } from '../tenders/store.ts';

/**
 * The terminals as the rest of the house sees them: they are asked until each payment is answered, also after a
 * restart.
 */
export interface HouseTerminals {
  /** Asks the terminal for a payment that is stored. */
  begin(tenderId: string): Promise<void>;
  callOff(tender: PaymentTender): Promise<void>;
  /** Asks where a payment stands. */
  check(tender: PaymentTender): Promise<void>;
  /** Sends the money of a payment back to its card. */
  sendBack(tenderId: string): Promise<void>;
  /** There may be something to ask about. */
  wake(): void;
  stop(): Promise<void>;
}

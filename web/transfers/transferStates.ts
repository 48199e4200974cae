import type { TransferState } from '../../contract/transfers.ts';

/** How far goods are that go to another place. */
export const TRANSFER_STATES: Readonly<Record<TransferState, string>> = {
  asked: 'Asked for',
  sent: 'On the way',
  arrived: 'There',
  cancelled: 'Not sent',
};

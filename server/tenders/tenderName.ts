import { lastFour, STORED_VALUE_NAMES } from '../../core/giftCards/storedValue.ts';
import type { PaymentTender } from './store.ts';

/** What a payment is called on screen and on paper: never more of a number than its last four characters. */
export function tenderName(
  tender: Pick<
    PaymentTender,
    | 'kind'
    | 'refund'
    | 'typeName'
    | 'storedValueKind'
    | 'storedValueNumber'
    | 'brand'
    | 'lastFour'
    | 'reference'
    | 'accountName'
  >,
): string {
  const { kind, typeName, storedValueKind, storedValueNumber, brand, reference } = tender;
  if (kind === 'stored-value' && storedValueKind && storedValueNumber) {
    return `${STORED_VALUE_NAMES[storedValueKind]} ·· ${lastFour(storedValueNumber)}`;
  }
  if (kind === 'account') return [typeName, tender.accountName, reference].filter(Boolean).join(', ');
  if (kind === 'stored-value' && tender.refund) return STORED_VALUE_NAMES['store-credit'];
  if (kind === 'card' && brand) return tender.lastFour ? `${brand} ·· ${tender.lastFour}` : brand;
  return reference ? `${typeName} ${reference}` : typeName;
}

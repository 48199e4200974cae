import type { StoredValueView } from '../../contract/giftCards.ts';
import { isExpired } from '../../core/giftCards/storedValue.ts';

/** What a gift card is in, and how long it is good. @param till how days are written, and which one it is */
export function stateWords(
  value: StoredValueView,
  till: { today(): string; calendarDay(day: string): string },
): string {
  const { state, dormant, expiresOn } = value;
  if (state !== 'active') return state;
  if (isExpired(value, till.today())) return 'expired';
  if (dormant) return 'dormant';
  return expiresOn ? `until ${till.calendarDay(expiresOn)}` : 'active';
}

import type { KeptOffer } from '../../contract/offers.ts';
import { houseNow } from '../shop/houseClock.ts';
import { shopDay } from '../shop/shopDay.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** Where an offer is in its life, in a word. */
export function stateWords({ state, conditions }: Pick<KeptOffer, 'state' | 'conditions'>): string {
  if (state !== 'live') return state === 'draft' ? 'Draft' : 'Ended';
  const till = useTillStore();
  const today = shopDay(houseNow(), till.facts?.shop.timezone ?? 'UTC');
  if (conditions.from && conditions.from > today) return `From ${till.calendarDay(conditions.from)}`;
  return conditions.to && conditions.to < today ? 'Over' : 'Applies';
}

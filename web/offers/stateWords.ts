import type { KeptOffer } from '../../contract/offers.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** Where an offer is in its life, in a word. */
export function stateWords({ state, conditions }: Pick<KeptOffer, 'state' | 'conditions'>): string {
  if (state !== 'live') return state === 'draft' ? 'Draft' : 'Ended';
  const till = useTillStore();
  const today = till.today();
  if (conditions.from && conditions.from > today) return `From ${till.calendarDay(conditions.from)}`;
  return conditions.to && conditions.to < today ? 'Over' : 'Applies';
}

import { writtenIn } from '../../core/figures/written.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** How figures and what they are of are written where the shop is. */
export function useWritten() {
  const { facts, digits } = useTillStore();
  return writtenIn(facts?.shop.locale ?? 'en-US', digits);
}

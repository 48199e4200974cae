import { indexOffers, type OfferIndex } from '../../core/offers/offerUnits.ts';
import type { Database } from '../db/database.ts';
import { liveOffers } from './offerStore.ts';

const kept = new WeakMap<Database, { revision: number; index: OfferIndex }>();

/**
 * The offers in force, ready to be applied; read again only when one has changed. @param revision as the database has
 * it now
 */
export async function offersInForce(database: Database, revision: number): Promise<OfferIndex> {
  const known = kept.get(database);
  if (known?.revision === revision) return known.index;
  const index = indexOffers(await database.ask(liveOffers));
  kept.set(database, { revision, index });
  return index;
}

import { randomInt } from 'node:crypto';
import type { UsedUpProblem } from '../../contract/counter.ts';
import type { FoundCode, KeptOffer, NewCodes, OfferDraft, OfferState } from '../../contract/offers.ts';
import type { Basket } from '../../core/counter/basket.ts';
import type { PricedBasket } from '../../core/pricing/price.ts';
import type { Reader, Writer } from '../db/database.ts';
import { formChangedMeanwhile, fieldProblem, Problem } from '../http/problem.ts';
import * as store from './offerStore.ts';

/** One use of an offer as a sale stores it. */
export interface StoredUse {
  offerId: number;
  uses: number;
  code: string;
  points: number;
}

/** The uses of offers that a priced basket comes to, each with the code that opened it. */
export function offerUses(
  basket: Basket,
  { offers }: PricedBasket,
  { codes: known }: { codes: readonly { code: string; offerId: number; single: boolean }[] },
): StoredUse[] {
  return offers.flatMap(({ id, uses, points }): StoredUse[] => {
    const codes = known.filter(
      ({ offerId, code }) => offerId === id && basket.codes?.some((one) => one.code === code),
    );
    const open = codes.find(({ single }) => !single);
    if (codes.length === 0 || open) return [{ offerId: id, uses, code: open?.code ?? '', points }];
    return codes.slice(0, uses).map(({ code }) => ({ offerId: id, uses: 1, code, points: 0 }));
  });
}

/** What is said when the last use of an offer, or a code, went elsewhere. */
export function usedUp(offers: readonly string[], codes: readonly string[]): Problem {
  const data: UsedUpProblem = { codes: [...codes], points: false };
  const what = [...codes, ...offers].join(', ');
  return new Problem('offer-used-up', `${what} was used up at another till. Nothing was taken.`, {
    detail: 'The basket is priced without it now. Tell the customer the new total.',
    data,
  });
}

/**
 * Holds the uses of limited offers and single codes for a basket that is about to be paid.
 * @param shown uses that the screen shows; where another basket was faster, `priced` is without them already
 * @throws Problem 409 `offer-used-up` where another basket was faster
 */
export async function claimOffers(
  sql: Writer,
  basket: Basket,
  { priced, shown }: { priced: PricedBasket; shown: readonly { offerId: number; uses: number }[] },
  facts: { codes: readonly { code: string; offerId: number; single: boolean }[] },
  at: Date,
): Promise<void> {
  const uses = offerUses(basket, priced, facts);
  const ofOffer = (id: number) => uses.reduce((sum, use) => sum + (use.offerId === id ? use.uses : 0), 0);
  const onlyShown = shown
    .map((one) => ({ offerId: one.offerId, uses: one.uses - ofOffer(one.offerId) }))
    .filter((one) => one.uses > 0);
  // Codes that yield nothing on this basket are checked as well: they may have been used meanwhile.
  const codes = (basket.codes ?? []).filter(({ single }) => single).map(({ code }) => code);
  const wanted = [...uses, ...onlyShown];
  const over = await store.overclaimed(sql, basket.id, basket.customer?.id ?? null, wanted, at);
  const taken = await store.takenCodes(sql, basket.id, codes, at);
  if (over.length > 0 || taken.length > 0)
    throw usedUp(
      over,
      taken.map(({ code }) => code),
    );
  await store.putClaims(sql, basket.id, uses, at);
}

/** What a code opens. @throws Problem 404, or 409 where it opens nothing any more */
export async function lookUpCode(sql: Reader, code: string): Promise<FoundCode> {
  const found = await store.findCode(sql, code);
  if (!found) throw new Problem('no-code', 'No offer has this code.');
  const { used, state, ...rest } = found;
  if (found.single && used > 0) throw new Problem('code-used', `${found.code} was used before.`);
  if (state !== 'live') throw new Problem('offer-not-live', `${found.offer} does not apply now.`);
  return rest;
}

/**
 * Keeps an offer. @param kept the one that is changed, as it was looked at; nothing for a new one
 * @throws Problem 404, 409, 422 where its name is taken or it names what the shop has not
 */
export async function keepOffer(
  sql: Writer,
  kept: { id: number; version: number } | null,
  offer: OfferDraft,
  by: { staffId: number; at: Date },
): Promise<{ id: number }> {
  if (kept) await offerAsSeen(sql, kept);
  const id = kept?.id ?? null;
  if (await store.offerNamed(sql, offer.name, id))
    throw fieldProblem('name', 'Another offer has this name: the name is printed as the reason.');
  if ((await store.unknownGoods(sql, offer.rule)) > 0)
    throw fieldProblem('rule.goods', 'Some of these goods are not there any more.');
  return { id: await store.putOffer(sql, id, offer, by) };
}

/** @throws Problem 404 */
export async function readOffer(sql: Reader, id: number) {
  const offer = await store.findOffer(sql, id);
  if (!offer) throw new Problem('no-offer', 'There is no such offer.');
  return offer;
}

/** An offer that is not over, as whoever changes it has looked at it. @throws Problem 404, 409 */
async function offerAsSeen(
  sql: Writer,
  { id, version }: { id: number; version: number },
): Promise<KeptOffer> {
  await store.lockOffer(sql, id);
  const offer = await readOffer(sql, id);
  if (offer.state === 'ended')
    throw new Problem('offer-ended', 'This offer is over. Copy it to use it again.');
  if (offer.version !== version) {
    throw formChangedMeanwhile(`${offer.by || 'Somebody'} has changed this offer meanwhile.`);
  }
  return offer;
}

/** Switches an offer on or off, or ends it for good. @throws Problem 404, 409 */
export async function switchOffer(
  sql: Writer,
  kept: { id: number; version: number },
  state: OfferState,
  at: Date,
): Promise<void> {
  const offer = await offerAsSeen(sql, kept);
  if (state === 'live' && offer.needs === 'code' && offer.codes === 0)
    throw new Problem('no-codes', 'Add a code first: without one nobody can have this offer.');
  await store.setOfferState(sql, kept.id, state, at);
}

/** Letters and figures that are not taken for one another. */
const ALPHABET = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
const RANDOM_LETTERS = 9;

const randomCode = () => {
  const letters = Array.from({ length: RANDOM_LETTERS }, () => ALPHABET[randomInt(ALPHABET.length)] ?? '');
  return `${letters.slice(0, 3).join('')}-${letters.slice(3, 6).join('')}-${letters.slice(6).join('')}`;
};

/** Adds one code that is written, or a series of codes that each open the offer once. @throws Problem 404, 422 */
export async function addCodes(
  sql: Writer,
  offerId: number,
  { code, count }: NewCodes,
  at: Date,
): Promise<{ codes: string[] }> {
  await readOffer(sql, offerId);
  if (code) {
    const added = await store.addCodes(sql, offerId, [code], { single: false, at });
    if (added.length === 0) throw fieldProblem('code', 'This code is taken.');
    return { codes: added };
  }
  if (count === 0) throw fieldProblem('count', 'How many codes?');
  const codes: string[] = [];
  // A code that was there already is made again.
  while (codes.length < count) {
    const fresh = Array.from({ length: count - codes.length }, randomCode);
    codes.push(...(await store.addCodes(sql, offerId, fresh, { single: true, at })));
  }
  return { codes };
}

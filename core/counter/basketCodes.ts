import { BasketError, type Basket, type BasketCode } from './basket.ts';

/** Puts a code on the basket. @throws BasketError where it is there already */
export function addCode(basket: Basket, code: BasketCode): Basket {
  const codes = basket.codes ?? [];
  if (codes.some((one) => one.code === code.code))
    throw new BasketError(`${code.code} is on this basket already.`);
  return { ...basket, codes: [...codes, code] };
}

export function withoutCode(basket: Basket, code: string): Basket {
  const codes = (basket.codes ?? []).filter((one) => one.code !== code);
  return { ...basket, codes: codes.length > 0 ? codes : undefined };
}

/** Takes an offer for points, once more or once less. */
export function setReward(basket: Basket, offerId: number, taken: boolean): Basket {
  const before = basket.rewards ?? [];
  const at = before.lastIndexOf(offerId);
  const rewards = taken ? [...before, offerId] : at < 0 ? before : before.toSpliced(at, 1);
  return { ...basket, rewards: rewards.length > 0 ? rewards : undefined };
}

/** Takes so many points for money off; none takes them away. */
export const setPointsOff = (basket: Basket, points: number): Basket => ({
  ...basket,
  pointsOff: points > 0 ? points : undefined,
});

/** Whether the basket takes points of its customer: what it is to have of them is held while it is paid. */
export const takesPoints = ({ rewards, pointsOff }: Basket): boolean =>
  rewards !== undefined || pointsOff !== undefined;

/** The basket without anything that is paid with points: they are somebody else's, or are gone. */
export const withoutPoints = (basket: Basket): Basket => ({
  ...basket,
  rewards: undefined,
  pointsOff: undefined,
});

/** How often codes and chosen rewards open offers. */
export function unlockedOffers({ codes = [], rewards = [] }: Basket): Map<number, number> {
  const unlocked = new Map<number, number>();
  const open = (id: number, uses: number) => unlocked.set(id, (unlocked.get(id) ?? 0) + uses);
  for (const { offerId, single } of codes) open(offerId, single ? 1 : Number.POSITIVE_INFINITY);
  for (const offerId of rewards) open(offerId, 1);
  return unlocked;
}

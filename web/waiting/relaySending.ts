import { plainMoney, type Money } from '../../core/money.ts';
import { firstRelayDay, partnersFor, usualPart } from '../../core/promises/relay.ts';
import type { PartnerAtTill } from '../../contract/relay.ts';

/** To whom, for when, and for how much something is passed on, as it is typed. */
export interface Sending {
  partnerId: number;
  day: string;
  part: string;
  /** Whether somebody has chosen the partner or the day. */
  chosen?: boolean;
}

/**
 * What is most likely: the partner who was chosen before, or else the first who delivers there, on the first day that
 * they can deliver, for their usual part.
 */
export function usualSending(
  partners: readonly PartnerAtTill[],
  of: { postcode: string; price: Money; digits: number },
  before?: { partnerId: number; day: string },
): Sending {
  const fitting = partnersFor(partners, of.postcode);
  const partner = fitting.find(({ id }) => id === before?.partnerId) ?? fitting[0];
  if (!partner) return { partnerId: 0, day: before?.day ?? '', part: '' };
  const first = firstRelayDay(partner, partner.now) ?? '';
  const day = before && before.day > first ? before.day : first;
  return { partnerId: partner.id, day, part: plainMoney(usualPart(of.price, partner), of.digits) };
}

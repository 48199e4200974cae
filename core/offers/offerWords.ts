import { formatTimeOfDay } from '../timeOfDay.ts';
import { counted, formatDay } from '../locale.ts';
import { formatMoney } from '../money.ts';
import { list, type OfferNames } from './goodsWords.ts';
import { kindOf } from './kinds/kinds.ts';
import type { Hindrance, Offer } from './offer.ts';

const WEEKDAYS = ['Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays'];

/** What an offer gives, as one sentence without its conditions. */
export const ruleWords = ({ rule }: Pick<Offer, 'rule'>, names: OfferNames): string =>
  kindOf(rule).words(names);

/** An offer in plain language, as its editor and the till say it. */
export function offerWords(offer: Offer, names: OfferNames): string {
  const { conditions, limits, needs, combines } = offer;
  const { from, to, weekdays, hours, placeIds, groups, minimum } = conditions;
  const parts = [ruleWords(offer, names)];
  if (minimum > 0) parts.push(`Only when these goods come to ${formatMoney(minimum, names.digits)} or more.`);
  if (groups.length > 0) parts.push(`${list(groups, 'or')} members only.`);
  if (weekdays.length > 0)
    parts.push(
      `${list(
        weekdays.toSorted().map((day) => WEEKDAYS[day - 1] ?? ''),
        'and',
      )}.`,
    );
  if (hours)
    parts.push(
      `From ${formatTimeOfDay(hours.from)} to ${formatTimeOfDay(hours.to)}${hours.to < hours.from ? ' on the next day' : ''}.`,
    );
  if (from && to) parts.push(`From ${formatDay(from)} to ${formatDay(to)}.`);
  else if (from) parts.push(`From ${formatDay(from)} on.`);
  else if (to) parts.push(`Until ${formatDay(to)}.`);
  if (placeIds.length > 0)
    parts.push(
      `At ${list(
        placeIds.map((id) => names.place(id)),
        'and',
      )} only.`,
    );
  if (needs === 'code') parts.push('With a code.');
  if (needs === 'points') parts.push(`For ${offer.points} ${names.points} each time.`);
  const limited = [
    limits.perSale === null ? '' : `${counted(limits.perSale, 'time')} in a sale`,
    limits.perCustomer === null ? '' : `${counted(limits.perCustomer, 'time')} for a customer`,
    limits.total === null ? '' : `${counted(limits.total, 'time')} in all`,
  ].filter(Boolean);
  if (limited.length > 0) parts.push(`At most ${list(limited, 'and')}.`);
  if (combines) parts.push('On top of other offers.');
  return parts.join(' ');
}

/** Why an offer does not apply now and here, and how it could. */
export function hindranceWords(
  hindrance: Hindrance,
  { name, conditions, points }: Offer,
  names: Pick<OfferNames, 'points'>,
): string {
  switch (hindrance) {
    case 'day':
      return `${name} does not apply today.`;
    case 'hours':
      return `${name} applies from ${conditions.hours?.from ?? ''} to ${conditions.hours?.to ?? ''}.`;
    case 'place':
      return `${name} does not apply in this place.`;
    case 'customer':
      return `${name} needs a customer: scan a card or press F4.`;
    case 'group':
      return `${name} is for members of ${list(conditions.groups, 'or')}: scan a card or press F4.`;
    case 'code':
      return `${name} needs a code.`;
    case 'points':
      return `${name} costs ${points} ${names.points}.`;
    case 'used-up':
      return `${name} is used up.`;
  }
}

import { formatMoney, type Money } from '../money.ts';
import { formatRate, WHOLE } from '../rate.ts';
import type { CombinationReward, Hindrance, Offer, OfferGoods, OfferOff } from './offer.ts';

/** What words about offers need to know. */
export interface OfferNames {
  item(id: number): string;
  place(id: number): string;
  digits: number;
  /** What points are called. */
  points: string;
}

const WEEKDAYS = ['Mondays', 'Tuesdays', 'Wednesdays', 'Thursdays', 'Fridays', 'Saturdays', 'Sundays'];

/** `a, b and c`. */
function list(parts: readonly string[], last: 'and' | 'or'): string {
  if (parts.length < 2) return parts[0] ?? '';
  return `${parts.slice(0, -1).join(', ')} ${last} ${parts.at(-1) ?? ''}`;
}

const plural = (count: number, word: string, more = `${word}s`) => `${count} ${count === 1 ? word : more}`;

/** The goods that an offer means: `Reeds or Strings`, `anything`. */
export function goodsWords({ itemIds, categories }: OfferGoods, names: OfferNames): string {
  const parts = [...categories, ...itemIds.map((id) => names.item(id))];
  if (parts.length === 0) return 'anything';
  return parts.length <= 4
    ? list(parts, 'or')
    : `${parts.slice(0, 3).join(', ')} or ${parts.length - 3} others`;
}

function offWords(off: OfferOff | { kind: 'price'; price: Money }, { digits }: OfferNames): string {
  if (off.kind === 'percent') return off.rate === WHOLE ? 'free' : `${formatRate(off.rate)} off`;
  return off.kind === 'amount'
    ? `${formatMoney(off.amount, digits)} off`
    : `for ${formatMoney(off.price, digits)}`;
}

function rewardWords(
  reward: CombinationReward,
  groups: readonly string[],
  size: number,
  names: OfferNames,
): string {
  switch (reward.kind) {
    case 'cheapest': {
      const which = reward.count === 1 ? 'the cheapest is' : `the ${reward.count} cheapest are`;
      return `${which} ${reward.rate === WHOLE ? 'free' : `reduced by ${formatRate(reward.rate)}`}`;
    }
    case 'percent': {
      const parts = reward.rates.map((rate, at) => ({ rate, group: groups[at] ?? '' }));
      const [first] = parts;
      if (first && parts.every(({ rate }) => rate === first.rate))
        return size === 1
          ? offWords({ kind: 'percent', rate: first.rate }, names)
          : `${formatRate(first.rate)} off all of them`;
      const reduced = parts.filter(({ rate }) => rate > 0);
      return list(
        reduced.map(({ rate, group }) =>
          rate === WHOLE ? `${group} free` : `${formatRate(rate)} off ${group}`,
        ),
        'and',
      );
    }
    case 'amount':
      return `${formatMoney(reward.amount, names.digits)} off`;
    case 'price':
      return `together for ${formatMoney(reward.price, names.digits)}`;
  }
}

/** What an offer gives, as one sentence without its conditions. */
export function ruleWords({ rule }: Pick<Offer, 'rule'>, names: OfferNames): string {
  switch (rule.kind) {
    case 'each':
      return `${sentence(goodsWords(rule.goods, names))}: ${offWords(rule.off, names)}, each.`;
    case 'together': {
      const goods = rule.groups.map((group) => goodsWords(group.goods, names));
      const size = rule.groups.reduce((whole, { count }) => whole + count, 0);
      const what =
        rule.groups.length === 1
          ? `Any ${size} of ${goods[0] ?? ''}`
          : sentence(
              list(
                rule.groups.map(({ count }, at) => `${count} of ${goods[at] ?? ''}`),
                'and',
              ),
            );
      return `${what}: ${rewardWords(rule.reward, goods, size, names)}.`;
    }
    case 'quantity':
      return rule.tiers
        .map(
          ({ from, rate }) =>
            `From ${from} of ${goodsWords(rule.goods, names)} on, in any mix: ${formatRate(rate)} off all.`,
        )
        .join(' ');
    case 'spend':
      return rule.tiers
        .map(
          ({ from, off }) =>
            `${formatMoney(from, names.digits)} or more on ${goodsWords(rule.goods, names)}: ${offWords(off, names)}.`,
        )
        .join(' ');
  }
}

const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

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
    parts.push(`From ${hours.from} to ${hours.to}${hours.to < hours.from ? ' on the next day' : ''}.`);
  if (from && to) parts.push(`From ${from} to ${to}.`);
  else if (from) parts.push(`From ${from} on.`);
  else if (to) parts.push(`Until ${to}.`);
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
    limits.perSale === null ? '' : `${plural(limits.perSale, 'time')} in a sale`,
    limits.perCustomer === null ? '' : `${plural(limits.perCustomer, 'time')} for a customer`,
    limits.total === null ? '' : `${plural(limits.total, 'time')} in all`,
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

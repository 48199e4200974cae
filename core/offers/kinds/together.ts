import { formatMoney, sum, type Money } from '../../money.ts';
import { formatRate, rateOf, WHOLE } from '../../rate.ts';
import { givenAt, type Combination, type GivenUnit, type Share } from '../givenUnits.ts';
import { capital } from '../../words.ts';
import { goodsWords, list, type OfferNames } from '../goodsWords.ts';
import type { CombinationReward, OfferGoods, OfferGroup, OfferRule } from '../offer.ts';
import { SCALE, shareMachine } from '../offerMachine.ts';
import { offWords } from '../offerOff.ts';
import type { OfferUnit } from '../offerUnits.ts';
import { REACH_UNITS, type Forming, type Lack, type Meant, type OfferKind, type PricedItem } from './kind.ts';
import { combined } from './togetherByRank.ts';
import { togetherMachine } from './togetherMachine.ts';

type TogetherRule = Extract<OfferRule, { kind: 'together' }>;

/** Units that are bought together. */
export class Together implements OfferKind {
  readonly takesUncounted = false;
  readonly once = false;
  readonly single = false;
  readonly spreads = true;
  readonly largestOnce = null;

  constructor(private readonly rule: TogetherRule) {}

  get isPart() {
    const { kind } = this.rule.reward;
    return kind === 'cheapest' || kind === 'percent';
  }

  get groupsAlike() {
    return this.rule.reward.kind !== 'percent';
  }

  get priceForAll() {
    const { reward } = this.rule;
    return reward.kind === 'price' ? reward.price : null;
  }

  /** Units of a combination. */
  get #size() {
    return sum(this.rule.groups.map(({ count }) => count));
  }

  offEach(): Money {
    return 0;
  }

  combinations(given: readonly GivenUnit[], ranked: readonly number[], limit: number): Combination[] {
    const { groups, reward } = this.rule;
    return complete(groups, given, ranked, limit).map(({ shares, times }) => ({
      shares,
      times,
      total: combinationReduction(reward, shares, given),
    }));
  }

  machines(units: readonly OfferUnit[], groupSizes: readonly number[], limit: number) {
    const share = (unit: OfferUnit, group: number) => this.largestShare(unit, group);
    const possible = this.rule.groups.map(({ count }, at) => Math.floor((groupSizes[at] ?? 0) / count));
    const most = Math.min(limit, ...possible) * this.#size;
    return [
      () => togetherMachine(this.rule, units, limit),
      ...(most < units.length ? [() => shareMachine(share, most)] : []),
      () => shareMachine(share),
    ];
  }

  groupOfOption(option: number): number {
    return option;
  }

  largestShare({ price }: OfferUnit, group: number): number {
    const { reward } = this.rule;
    switch (reward.kind) {
      case 'cheapest':
        // The cheapest are at most as dear as all on average; a rounded cent for each.
        return Math.ceil(((rateOf(price, reward.rate) + 1) * SCALE * reward.count) / this.#size);
      case 'percent':
        return rateOf(price, reward.rates[group] ?? 0) * SCALE;
      case 'amount':
        return Math.ceil((reward.amount * SCALE) / this.#size);
      case 'price':
        return price * SCALE - Math.floor((reward.price * SCALE) / this.#size);
    }
  }

  wholeRate(): undefined {
    return undefined;
  }

  byRank(forming: Forming) {
    const { free } = forming;
    const ways = [free, ...(this.rule.reward.kind === 'amount' ? [free.toReversed()] : [])];
    return ways.map((order) => combined(this.rule, order, forming));
  }

  hasEnough({ ofGroup }: Meant): boolean {
    return this.rule.groups.every(({ count }, group) => ofGroup(group) >= count);
  }

  words(names: OfferNames): string {
    const { groups, reward } = this.rule;
    const goods = groups.map((group) => goodsWords(group.goods, names));
    const parts = groups.map(({ count }, at) => `${count} of ${goods[at] ?? ''}`);
    const what = groups.length === 1 ? `Any ${this.#size} of ${goods[0] ?? ''}` : capital(list(parts, 'and'));
    return `${what}: ${rewardWords(reward, goods, this.#size, names)}.`;
  }

  examples<Item extends PricedItem>(some: (goods: OfferGoods, count: number) => Item[]): Item[][] {
    const of = this.rule.groups.map(({ goods, count }) => ({ count, items: some(goods, count) }));
    if (of.some(({ count, items }) => items.length < count)) return [];
    const enough = of.flatMap(({ items }) => items);
    return [enough, [...enough, ...enough.slice(-1)], [...enough, ...enough], enough.slice(0, -1)];
  }

  lacks({ ofGroup }: Meant, anyway: boolean): Lack | undefined {
    const { groups } = this.rule;
    const done = Math.min(...groups.map(({ count }, at) => Math.floor(ofGroup(at) / count)));
    const missing = groups
      .map(({ goods, count }, at) => ({ goods, count: Math.max(0, (done + 1) * count - ofGroup(at)) }))
      .filter(({ count }) => count > 0);
    const count = sum(missing.map((group) => group.count));
    const far = count > REACH_UNITS || count >= this.#size;
    return far && !anyway ? undefined : { kind: 'units', groups: missing };
  }
}

/** Complete combinations in the order of rank: the dearest units of every group first; equal ones are counted. */
function complete(
  groups: readonly OfferGroup[],
  given: readonly GivenUnit[],
  ranked: readonly number[],
  limit: number,
): { shares: Share[]; times: number }[] {
  const queues = groups.map((_, group) =>
    ranked.filter((at) => given[at]?.group === group).map((at) => ({ at, left: givenAt(given, at).count })),
  );
  let left = Math.min(
    limit,
    ...groups.map(({ count }, at) => Math.floor(sum((queues[at] ?? []).map((one) => one.left)) / count)),
  );
  const found: { shares: Share[]; times: number }[] = [];
  while (left > 0) {
    // Where every group takes all it needs from equal units, the same combination comes several times.
    const times = Math.max(
      1,
      Math.min(left, ...groups.map(({ count }, at) => Math.floor((queues[at]?.[0]?.left ?? 0) / count))),
    );
    const shares: Share[] = [];
    groups.forEach(({ count }, group) => {
      const queue = queues[group] ?? [];
      for (let missing = count * times; missing > 0;) {
        const first = queue[0];
        if (!first) break;
        const taken = Math.min(missing, first.left);
        first.left -= taken;
        missing -= taken;
        shares.push([first.at, taken / times]);
        if (first.left === 0) queue.shift();
      }
    });
    found.push({ shares, times });
    left -= times;
  }
  return found;
}

/** What one combination is reduced by; never more than it costs. */
function combinationReduction(
  reward: CombinationReward,
  shares: readonly Share[],
  given: readonly GivenUnit[],
): Money {
  const units = shares.map(([at, count]) => ({ ...givenAt(given, at), count }));
  const whole = sum(units.map(({ unit, count }) => unit.price * count));
  switch (reward.kind) {
    case 'cheapest': {
      let [left, total] = [reward.count, 0];
      for (const { unit, count } of units.sort((a, b) => a.unit.price - b.unit.price)) {
        const reduced = Math.min(left, count);
        total += rateOf(unit.price, reward.rate) * reduced;
        left -= reduced;
      }
      return total;
    }
    case 'percent':
      return sum(units.map(({ unit, group, count }) => rateOf(unit.price, reward.rates[group] ?? 0) * count));
    case 'amount':
      return Math.min(reward.amount, whole);
    case 'price':
      return Math.max(0, whole - reward.price);
  }
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

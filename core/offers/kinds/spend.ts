import { formatMoney, sum, type Money } from '../../money.ts';
import { rateOf } from '../../rate.ts';
import {
  givenAt,
  singly,
  type Combination,
  type FreeUnits,
  type Give,
  type GivenUnit,
  type Share,
} from '../givenUnits.ts';
import { goodsWords, type OfferNames } from '../goodsWords.ts';
import { leastAbove } from '../leastAbove.ts';
import type { OfferGoods, OfferRule } from '../offer.ts';
import { SCALE, shareMachine, type OfferMachine } from '../offerMachine.ts';
import { offWords } from '../offerOff.ts';
import type { OfferUnit } from '../offerUnits.ts';
import {
  MOST_EXAMPLE_UNITS,
  type Forming,
  type Lack,
  type Meant,
  type OfferKind,
  type PricedItem,
} from './kind.ts';

type SpendRule = Extract<OfferRule, { kind: 'spend' }>;

/** From so much on spent on the goods. */
export class Spend implements OfferKind {
  readonly takesUncounted = true;
  readonly once = true;
  readonly single = false;
  readonly spreads = false;
  readonly groupsAlike = true;
  readonly priceForAll = null;

  constructor(private readonly rule: SpendRule) {}

  get isPart() {
    return this.rule.tiers.every(({ off }) => off.kind === 'percent');
  }

  get largestOnce() {
    const amounts = this.rule.tiers.flatMap(({ off }) => (off.kind === 'amount' ? [off.amount] : []));
    return amounts.length === this.rule.tiers.length ? Math.max(...amounts) : null;
  }

  offEach(): Money {
    return 0;
  }

  /** What is taken off where so much is spent at list prices. */
  #offFor(listed: Money) {
    return this.rule.tiers.findLast(({ from }) => listed >= from)?.off;
  }

  combinations(given: readonly GivenUnit[], ranked: readonly number[]): Combination[] {
    const off = this.#offFor(sum(given.map(({ unit, count }) => unit.list * count)));
    if (!off || given.length === 0) return [];
    if (off.kind === 'percent') return singly(given, ranked, (price) => rateOf(price, off.rate));
    const whole = sum(given.map(({ unit, count }) => unit.price * count));
    const all = ranked.map((at): Share => [at, givenAt(given, at).count]);
    return [{ shares: all, total: Math.min(off.amount, whole), times: 1 }];
  }

  machines(units: readonly OfferUnit[]) {
    const { tiers } = this.rule;
    const grain = Math.ceil((tiers.at(-1)?.from ?? 0) / GRAINS);
    return [
      () => machineOf(tiers, units),
      ...(grain > 1 ? [() => machineOf(tiers, units, grain)] : []),
      () => shareMachine((unit) => this.largestShare(unit)),
    ];
  }

  groupOfOption(): number {
    return 0;
  }

  largestShare({ price, list }: OfferUnit): number {
    return Math.max(
      ...this.rule.tiers.map(({ from, off }) => {
        if (off.kind === 'percent') return rateOf(price, off.rate) * SCALE;
        return from === 0
          ? off.amount * SCALE
          : Math.ceil((off.amount * Math.min(list, from) * SCALE) / from);
      }),
    );
  }

  wholeRate(meant: readonly OfferUnit[]) {
    const off = this.#offFor(sum(meant.map(({ list, count }) => list * count)));
    return off?.kind === 'percent' ? off.rate : undefined;
  }

  byRank({ units, free, base, formed, byGain }: Forming) {
    return this.rule.tiers.map(({ from, off }) =>
      formed(
        off.kind === 'percent'
          ? byGain((price) => rateOf(price, off.rate), Infinity, Infinity)
          : justEnough(from, units, free, base),
      ),
    );
  }

  hasEnough({ listed }: Meant): boolean {
    return listed >= (this.rule.tiers[0]?.from ?? 0);
  }

  words(names: OfferNames): string {
    const goods = goodsWords(this.rule.goods, names);
    return this.rule.tiers
      .map(
        ({ from, off }) => `${formatMoney(from, names.digits)} or more on ${goods}: ${offWords(off, names)}.`,
      )
      .join(' ');
  }

  examples<Item extends PricedItem>(some: (goods: OfferGoods, count: number) => Item[]): Item[][] {
    const [{ from } = { from: 0 }] = this.rule.tiers;
    const basket: Item[] = [];
    for (const item of some(this.rule.goods, MOST_EXAMPLE_UNITS)) {
      if (sum(basket.map(({ price }) => price)) >= from) break;
      basket.push(item);
    }
    return [basket, basket.slice(0, -1)];
  }

  lacks({ listed }: Meant): Lack | undefined {
    const { goods, tiers } = this.rule;
    const next = tiers.find(({ from }) => from > listed);
    return next && { kind: 'money', goods, missing: next.from - listed, from: next.from };
  }
}

/** Into so many pieces a threshold is parted where there are too many sums. */
const GRAINS = 32;

/**
 * State: the tier that was set out for (0: none yet), and what the units cost at list prices, up to what it asks for.
 * @param grain counts list prices in pieces of so much, rounded up: fewer states, of which the best is a bound
 */
function machineOf(tiers: SpendRule['tiers'], units: readonly OfferUnit[], grain = 1): OfferMachine {
  const goals = tiers.map(({ from }) => Math.floor(from / grain));
  // Where goods cost so much less than their list prices that an amount may be cut, it is a bound.
  const cut = tiers.some(
    ({ from, off }) =>
      off.kind === 'amount' &&
      (off.amount > from || units.some(({ price, list }) => price * from < off.amount * list)),
  );
  return {
    start: [0, 0],
    steps([chosen = 0, listed = 0], { price, list }, _group, step) {
      tiers.forEach(({ off }, at) => {
        if (chosen !== 0 && chosen !== at + 1) return;
        const gain = off.kind === 'percent' ? rateOf(price, off.rate) * SCALE : 0;
        step(at, [at + 1, Math.min(goals[at] ?? 0, listed + Math.ceil(list / grain))], gain);
      });
    },
    finish([chosen = 0, listed = 0]) {
      const tier = tiers[chosen - 1];
      if (!tier) return 0;
      if (listed < (goals[chosen - 1] ?? 0)) return null;
      return tier.off.kind === 'amount' ? tier.off.amount * SCALE : 0;
    },
    hopeless: ([chosen = 0, listed = 0], { list, counts }) =>
      chosen !== 0 &&
      listed + Math.ceil(list / grain) + (grain > 1 ? (counts[0] ?? 0) : 0) < (goals[chosen - 1] ?? 0),
    radix: Math.max(tiers.length, goals.at(-1) ?? 0) + 1,
    relaxed: cut || grain > 1,
  };
}

/** Units that cost just so much at list prices, or as little more as can be found; nothing where there are too few. */
function justEnough(
  from: Money,
  units: readonly OfferUnit[],
  free: readonly FreeUnits[],
  base: readonly number[],
): Give[] {
  const counts = leastAbove(
    from,
    free.map(({ place, count }) => ({
      size: (units[place] as OfferUnit).list,
      // What earns something anyhow is the last to be taken.
      cost: (units[place] as OfferUnit).list + (base[place] ?? 0),
      count,
    })),
  );
  return free.flatMap(({ place }, at) => (counts[at] ? [{ place, group: 0, count: counts[at] }] : []));
}

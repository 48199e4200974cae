import type { Money } from '../../money.ts';
import { formatRate, rateOf } from '../../rate.ts';
import { singly, type Combination, type GivenUnit } from '../givenUnits.ts';
import { goodsWords, type OfferNames } from '../goodsWords.ts';
import type { OfferGoods, OfferRule } from '../offer.ts';
import { SCALE, shareMachine, type MachineState, type OfferMachine } from '../offerMachine.ts';
import { howMany, type OfferUnit } from '../offerUnits.ts';
import {
  REACH_PART,
  REACH_UNITS,
  type Forming,
  type Lack,
  type Meant,
  type OfferKind,
  type PricedItem,
} from './kind.ts';

/** The more units of the goods, in any mix, the larger the part. */
export class Quantity implements OfferKind {
  readonly takesUncounted = false;
  readonly isPart = true;
  readonly once = true;
  readonly single = false;
  readonly spreads = false;
  readonly groupsAlike = true;
  readonly priceForAll = null;
  readonly largestOnce = null;

  constructor(private readonly rule: Extract<OfferRule, { kind: 'quantity' }>) {}

  offEach(): Money {
    return 0;
  }

  #tierFor(units: number) {
    return this.rule.tiers.findLast(({ from }) => units >= from);
  }

  combinations(given: readonly GivenUnit[], ranked: readonly number[]): Combination[] {
    const tier = this.#tierFor(howMany(given));
    return tier ? singly(given, ranked, (price) => rateOf(price, tier.rate)) : [];
  }

  machines() {
    return [() => this.#machine(), () => shareMachine((unit) => this.largestShare(unit))];
  }

  /** State: the tier that was set out for (0: none yet), and units so far, up to what it asks for. */
  #machine(): OfferMachine {
    const { tiers } = this.rule;
    const fromOf = (state: MachineState) => tiers[(state[0] ?? 0) - 1]?.from ?? 0;
    return {
      start: [0, 0],
      steps([chosen = 0, count = 0], { price }, _group, step) {
        tiers.forEach(({ from, rate }, at) => {
          if (chosen === 0 || chosen === at + 1)
            step(at, [at + 1, Math.min(from, count + 1)], rateOf(price, rate) * SCALE);
        });
      },
      finish: (state) => (state[0] === 0 || (state[1] ?? 0) >= fromOf(state) ? 0 : null),
      hopeless: (state, { counts }) => state[0] !== 0 && (state[1] ?? 0) + (counts[0] ?? 0) < fromOf(state),
      radix: Math.max(tiers.length, tiers.at(-1)?.from ?? 0) + 1,
      relaxed: false,
    };
  }

  groupOfOption(): number {
    return 0;
  }

  largestShare({ price }: OfferUnit): number {
    return Math.max(...this.rule.tiers.map(({ rate }) => rateOf(price, rate))) * SCALE;
  }

  wholeRate(meant: readonly OfferUnit[]) {
    return this.#tierFor(howMany(meant))?.rate;
  }

  byRank({ formed, byGain }: Forming) {
    return this.rule.tiers.map(({ from, rate }) =>
      formed(byGain((price) => rateOf(price, rate), Infinity, from)),
    );
  }

  hasEnough({ units }: Meant): boolean {
    return units >= (this.rule.tiers[0]?.from ?? 0);
  }

  words(names: OfferNames): string {
    const goods = goodsWords(this.rule.goods, names);
    return this.rule.tiers
      .map(({ from, rate }) => `From ${from} of ${goods} on, in any mix: ${formatRate(rate)} off all.`)
      .join(' ');
  }

  examples<Item extends PricedItem>(some: (goods: OfferGoods, count: number) => Item[]): Item[][] {
    const { goods, tiers } = this.rule;
    return tiers.flatMap(({ from }) => [some(goods, from - 1), some(goods, from)]);
  }

  lacks({ units }: Meant, anyway: boolean): Lack | undefined {
    const { goods, tiers } = this.rule;
    const next = tiers.find(({ from }) => from > units);
    if (!next) return undefined;
    const count = next.from - units;
    const far = units === 0 || count > Math.max(REACH_UNITS, next.from * REACH_PART);
    return far && !anyway ? undefined : { kind: 'units', groups: [{ goods, count }] };
  }
}

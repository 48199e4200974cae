import type { Money } from '../../money.ts';
import { singly, type Combination, type GivenUnit } from '../givenUnits.ts';
import { capital } from '../../words.ts';
import { goodsWords, type OfferNames } from '../goodsWords.ts';
import type { OfferGoods, OfferRule } from '../offer.ts';
import { never, SCALE, shareMachine, type OfferMachine } from '../offerMachine.ts';
import { offEach, offWords } from '../offerOff.ts';
import { howMany, type OfferUnit } from '../offerUnits.ts';
import type { Forming, Lack, Meant, OfferKind, PricedItem } from './kind.ts';

/** Every unit for itself. */
export class Each implements OfferKind {
  readonly once = false;
  readonly single = true;
  readonly spreads = false;
  readonly groupsAlike = true;
  readonly priceForAll = null;
  readonly largestOnce = null;

  constructor(private readonly rule: Extract<OfferRule, { kind: 'each' }>) {}

  get takesUncounted() {
    return this.rule.off.kind === 'percent';
  }

  get isPart() {
    return this.rule.off.kind === 'percent';
  }

  offEach(price: Money): Money {
    return offEach(price, this.rule.off);
  }

  combinations(given: readonly GivenUnit[], ranked: readonly number[], limit: number): Combination[] {
    let left = limit;
    return singly(given, ranked, (price) => this.offEach(price)).flatMap((one) => {
      const times = one.total > 0 ? Math.min(one.times, left) : 0;
      left -= times;
      return times > 0 ? [{ ...one, times }] : [];
    });
  }

  machines(units: readonly OfferUnit[], _groupSizes: readonly number[], limit: number) {
    return [() => this.#machine(units.length, limit), () => shareMachine((unit) => this.largestShare(unit))];
  }

  #machine(count: number, limit: number): OfferMachine {
    const limited = limit < count;
    return {
      start: [0],
      steps: ([used = 0], { price }, _group, step) => {
        if (used < limit) step(0, [limited ? used + 1 : 0], this.offEach(price) * SCALE);
      },
      finish: () => 0,
      hopeless: never,
      radix: count + 1,
      relaxed: false,
    };
  }

  groupOfOption(): number {
    return 0;
  }

  largestShare({ price }: OfferUnit): number {
    return this.offEach(price) * SCALE;
  }

  wholeRate(meant: readonly OfferUnit[], limit: number) {
    const { off } = this.rule;
    return off.kind === 'percent' && limit >= howMany(meant) ? off.rate : undefined;
  }

  byRank({ formed, byGain, limit }: Forming) {
    return [formed(byGain((price) => this.offEach(price), limit))];
  }

  hasEnough({ units }: Meant): boolean {
    return units >= 1;
  }

  words(names: OfferNames): string {
    const { goods, off } = this.rule;
    return `${capital(goodsWords(goods, names))}: ${offWords(off, names)}, each.`;
  }

  examples<Item extends PricedItem>(some: (goods: OfferGoods, count: number) => Item[]): Item[][] {
    return [some(this.rule.goods, 1), some(this.rule.goods, 3)];
  }

  lacks({ units }: Meant, anyway: boolean): Lack | undefined {
    return anyway && units === 0 ? { kind: 'goods', goods: this.rule.goods } : undefined;
  }
}

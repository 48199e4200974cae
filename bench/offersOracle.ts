/**
 * The choice of offers as an exact integer program, solved by a general solver: slow, and independent of the way the
 * till chooses. For exclusive offers whose amounts never exceed what a combination costs.
 */
import loadHighs from 'highs';
import { groupsOf, type OpenOffer } from '../core/offers/offer.ts';
import { kindOf } from '../core/offers/kinds/kinds.ts';
import { offEach } from '../core/offers/offerOff.ts';
import { laidOut, means, unitsOf, type OfferLine, type OfferUnit } from '../core/offers/offerUnits.ts';
import { rateOf } from '../core/rate.ts';

type Highs = Awaited<ReturnType<typeof loadHighs>>;

/** A program in the making: what is maximised, under which conditions, over which yes-or-no variables. */
class Program {
  readonly #gains: string[] = [];
  readonly #rows: string[] = [];
  readonly #binaries: string[] = [];
  readonly #amounts: string[] = [];

  binary(name: string, gain = 0): string {
    this.#binaries.push(name);
    if (gain !== 0) this.#gains.push(`${gain < 0 ? '-' : '+'} ${Math.abs(gain)} ${name}`);
    return name;
  }

  /** A number from zero on that is gained as it is. */
  amount(name: string): string {
    this.#amounts.push(name);
    this.#gains.push(`+ ${name}`);
    return name;
  }

  row(terms: readonly (readonly [factor: number, name: string])[], relation: string): void {
    if (terms.length === 0) return;
    const left = terms.map(([factor, name]) => `${factor < 0 ? '-' : '+'} ${Math.abs(factor)} ${name}`);
    this.#rows.push(` r${this.#rows.length}: ${left.join(' ')} ${relation}`);
  }

  get text(): string {
    const gains = this.#gains.length > 0 ? this.#gains.join('\n ') : '+ 0 nothing';
    const binaries = this.#binaries.length > 0 ? this.#binaries : ['nothing'];
    return [
      'Maximize',
      ` obj: ${gains}`,
      'Subject To',
      ...this.#rows,
      'Binary',
      ` ${binaries.join('\n ')}`,
      'End',
      '',
    ].join('\n');
  }
}

/** @returns the largest reduction, or `null` where the solver did not prove it in time */
export async function oracle(
  lines: readonly OfferLine[],
  open: readonly OpenOffer[],
  seconds = 10,
): Promise<number | null> {
  const units = laidOut(unitsOf(lines));
  const program = new Program();
  /** What each unit may be given to. */
  const uses: string[][] = units.map(() => []);
  let any = false;
  open.forEach((one, at) => {
    any = addOffer(program, one, `o${at}`, units, uses) || any;
  });
  if (!any) return 0;
  uses.forEach((names) =>
    program.row(
      names.map((name) => [1, name]),
      '<= 1',
    ),
  );
  const solution = (await solver()).solve(program.text, { time_limit: seconds, mip_rel_gap: 0 });
  return solution.Status === 'Optimal' ? Math.round(solution.ObjectiveValue) : null;
}

let loaded: Promise<Highs> | undefined;
const solver = (): Promise<Highs> => (loaded ??= loadHighs());

function addOffer(
  program: Program,
  { offer, limit }: OpenOffer,
  name: string,
  units: readonly OfferUnit[],
  uses: string[][],
): boolean {
  const { rule, conditions } = offer;
  const open = units.flatMap((unit, place) => {
    if (!unit.counted && !kindOf(rule).takesUncounted) return [];
    const groups = groupsOf(rule).flatMap(({ goods }, group) => (means(goods, unit.goods) ? [group] : []));
    return groups.length > 0 ? [{ unit, place, groups }] : [];
  });
  const listed = open.reduce((total, { unit }) => total + unit.list, 0);
  if (open.length === 0 || listed < conditions.minimum) return false;
  const give = (place: number, variable: string) => {
    uses[place]?.push(variable);
    return variable;
  };

  switch (rule.kind) {
    case 'each': {
      const given = open.map(({ unit, place }) =>
        give(place, program.binary(`${name}u${place}`, offEach(unit.price, rule.off))),
      );
      if (limit < given.length)
        program.row(
          given.map((one) => [1, one]),
          `<= ${limit}`,
        );
      return true;
    }
    case 'quantity':
    case 'spend': {
      const tiers = rule.tiers.map((tier, at) => ({ ...tier, y: program.binary(`${name}y${at}`) }));
      program.row(
        tiers.map(({ y }) => [1, y]),
        '<= 1',
      );
      tiers.forEach((tier, at) => {
        const off = 'off' in tier ? tier.off : ({ kind: 'percent', rate: tier.rate } as const);
        const given = open.map(({ unit, place }) => {
          const gain = off.kind === 'percent' ? rateOf(unit.price, off.rate) : 0;
          const x = give(place, program.binary(`${name}t${at}u${place}`, gain));
          program.row(
            [
              [1, x],
              [-1, tier.y],
            ],
            '<= 0',
          );
          return { unit, x };
        });
        const weight = (unit: OfferUnit) => (rule.kind === 'quantity' ? 1 : unit.list);
        program.row(
          [...given.map(({ unit, x }) => [weight(unit), x] as const), [-tier.from, tier.y]],
          '>= 0',
        );
        if (off.kind === 'amount') {
          const r = program.amount(`${name}t${at}r`);
          program.row(
            [
              [1, r],
              [-off.amount, tier.y],
            ],
            '<= 0',
          );
          program.row([[1, r], ...given.map(({ unit, x }) => [-unit.price, x] as const)], '<= 0');
        }
      });
      return true;
    }
    case 'together': {
      const { groups, reward } = rule;
      const size = groups.reduce((total, { count }) => total + count, 0);
      const slots = Math.min(limit, Math.floor(open.length / size));
      for (let c = 0; c < slots; c++) {
        const fixed = reward.kind === 'amount' ? reward.amount : reward.kind === 'price' ? -reward.price : 0;
        const y = program.binary(`${name}c${c}y`, fixed);
        if (c > 0)
          program.row(
            [
              [1, `${name}c${c - 1}y`],
              [-1, y],
            ],
            '>= 0',
          );
        const given = open.flatMap(({ unit, place, groups: of }) =>
          of.map((group) => {
            const gain =
              reward.kind === 'percent'
                ? rateOf(unit.price, reward.rates[group] ?? 0)
                : reward.kind === 'price'
                  ? unit.price
                  : 0;
            return {
              unit,
              place,
              group,
              x: give(place, program.binary(`${name}c${c}g${group}u${place}`, gain)),
            };
          }),
        );
        groups.forEach(({ count }, group) =>
          program.row(
            [...given.filter((one) => one.group === group).map(({ x }) => [1, x] as const), [-count, y]],
            '= 0',
          ),
        );
        if (reward.kind === 'cheapest') addCheapest(program, reward, `${name}c${c}`, y, size, given);
      }
      return slots > 0;
    }
  }
}

/** One cut price: what is reduced costs at most so much, what is not at least so much. */
function addCheapest(
  program: Program,
  { count, rate }: { count: number; rate: number },
  name: string,
  y: string,
  size: number,
  given: readonly { unit: OfferUnit; place: number; group: number; x: string }[],
): void {
  const prices = [...new Set(given.map(({ unit }) => unit.price))].sort((a, b) => a - b);
  const cuts = prices.map((price) => ({ price, z: program.binary(`${name}z${price}`) }));
  program.row([...cuts.map(({ z }) => [1, z] as const), [-1, y]], '= 0');
  const reduced = given.map(({ unit, place, group, x }) => {
    const f = program.binary(`${name}f${group}u${place}`, rateOf(unit.price, rate));
    program.row(
      [
        [1, f],
        [-1, x],
      ],
      '<= 0',
    );
    const from = cuts.filter(({ price }) => price >= unit.price);
    program.row([[1, f], ...from.map(({ z }) => [-count, z] as const)], '<= 0');
    const upTo = cuts.filter(({ price }) => price <= unit.price);
    program.row([[1, x], [-1, f], ...upTo.map(({ z }) => [count - size, z] as const)], '<= 0');
    return f;
  });
  program.row([...reduced.map((f) => [1, f] as const), [-count, y]], '= 0');
}

import { applyOffers } from '../core/offers/applyOffers.ts';
import type { OfferLine } from '../core/offers/offerUnits.ts';
import { exhaustiveJointly } from '../core/offers/testing/exhaustive.ts';
import {
  caseOf,
  EVERY_KIND,
  exactCase,
  randomBasket,
  randomFrom,
  randomOffers,
  type OfferCase as Case,
  type OfferStyle,
} from '../core/offers/testing/randomOffers.ts';
import { figure, median, quantile, timed, type Figure } from './measure.ts';
import { oracle } from './offersOracle.ts';

/**
 * Where the made-up baskets and offers begin; another seed makes others. `OFFERS_SEED=7 npm run bench --
 * offers-exact`
 */
const SEED = Number(process.env.OFFERS_SEED ?? 1);
/** How many cases are compared with the exact program. */
const EXACT_CASES = Number(process.env.OFFERS_CASES ?? 2000);

const TOUCHING: OfferStyle = { items: 24, kinds: EVERY_KIND, combining: 0, limited: 0.2 };

function touchingCase(seed: number, units: (random: () => number) => number, count = 50): Case {
  const random = randomFrom(SEED * 1_000_003 + seed);
  const offers = randomOffers(random, count, TOUCHING);
  return caseOf(offers, randomBasket(random, units(random), TOUCHING.items));
}

const solve = ({ lines, open, index }: Case) => applyOffers(lines, open, index);

/** The floor: one pass over the lines that asks which offers mean them. */
function pass({ lines, index }: Case): number {
  let touched = 0;
  for (const { goods, net } of lines) touched += net > 0 ? index.find(goods).size : 0;
  return touched;
}

async function measured(
  cases: readonly Case[],
): Promise<{ times: number[]; floors: number[]; proved: number }> {
  const [times, floors]: [number[], number[]] = [[], []];
  let proved = 0;
  for (const one of cases) {
    floors.push(await timed(() => pass(one)));
    times.push(
      await timed(() => {
        const { value, bound } = solve(one);
        if (value === bound) proved += 1;
      }),
    );
  }
  return { times, floors, proved };
}

/** 1,000 baskets of 1 to 30 units against 50 touching offers. */
export async function offersCounter(): Promise<Figure[]> {
  const cases = Array.from({ length: 1000 }, (_, at) =>
    touchingCase(at, (random) => 1 + Math.floor(random() * 30)),
  );
  for (const one of cases.slice(0, 300)) solve(one);
  const { times, floors, proved } = await measured(cases);
  const floor = median(floors);
  return [
    figure('offers-counter median', 'ms', median(times), floor, times.length, {
      words: 'under 2 ms',
      met: (value) => value < 2,
    }),
    figure('offers-counter p99', 'ms', quantile(times, 0.99), floor, times.length, {
      words: 'under 10 ms',
      met: (value) => value < 10,
    }),
    figure('offers-counter proved', '% of all', (100 * proved) / cases.length, 100, cases.length),
  ];
}

/** Baskets of 200 lines against 50 touching offers. */
export async function offersLarge(): Promise<Figure[]> {
  const style = { ...TOUCHING, items: 300 };
  const cases = Array.from({ length: 60 }, (_, at) => {
    const random = randomFrom(SEED * 1_000_033 + at);
    const offers = randomOffers(random, 50, style);
    const lines = Array.from({ length: 200 }, (_line, place): OfferLine => {
      const [line] = randomBasket(random, 1, style.items);
      return { ...(line as OfferLine), id: `line ${String(place).padStart(4, '0')}` };
    });
    return caseOf(offers, lines);
  });
  for (const one of cases.slice(0, 10)) solve(one);
  const { times, floors, proved } = await measured(cases);
  return [
    figure('offers-large median', 'ms', median(times), median(floors), times.length),
    figure('offers-large longest', 'ms', Math.max(...times), median(floors), times.length),
    figure('offers-large proved', '% of all', (100 * proved) / cases.length, 100, cases.length),
  ];
}

/**
 * Three families that are hard to prove: many spend offers at once, many equal triples, many limited offers on equal
 * units.
 */
function hostileCase(seed: number): Case {
  const random = randomFrom(SEED * 1_000_037 + seed);
  const kind = seed % 3;
  const items = 12;
  const lines = randomBasket(random, kind === 0 ? 30 : 240, items);
  const kinds = (['spend', 'together', 'each'] as const).slice(kind, kind + 1);
  return caseOf(
    randomOffers(random, 30, { items, kinds, combining: 0, limited: kind === 2 ? 1 : 0.1 }),
    lines,
  );
}

export async function offersHostile(): Promise<Figure[]> {
  const cases = Array.from({ length: 90 }, (_, at) => hostileCase(at));
  for (const one of cases.slice(0, 9)) solve(one);
  const { times, floors, proved } = await measured(cases);
  const gaps = cases.map((one) => {
    const { value, bound } = solve(one);
    return value > 0 ? (100 * (bound - value)) / value : 0;
  });
  return [
    figure('offers-hostile median', 'ms', median(times), median(floors), times.length),
    figure('offers-hostile longest', 'ms', Math.max(...times), median(floors), times.length),
    figure('offers-hostile proved', '% of all', (100 * proved) / cases.length, 100, cases.length),
    figure('offers-hostile gap', '% median', median(gaps), 100, cases.length),
    figure('offers-hostile worst gap', '% at most', Math.max(...gaps), 100, cases.length),
  ];
}

/** 30 units against 50 touching offers: the rare hard ones against the median. */
export async function offersTail(): Promise<Figure[]> {
  const cases = Array.from({ length: 400 }, (_, at) => touchingCase(at, () => 30));
  for (const one of cases.slice(0, 200)) solve(one);
  const { times, floors } = await measured(cases);
  const middle = median(times);
  return [
    figure('offers-tail median', 'ms', middle, median(floors), times.length),
    figure('offers-tail p99', 'ms', quantile(times, 0.99), middle, times.length, {
      words: 'under 10 medians',
      met: (value) => value < 10 * middle,
    }),
  ];
}

/** The same reduction as an exact integer program finds; goods at a group's price among them. */
async function asTheProgram(name: string, made: (seed: number) => Case, count: number): Promise<Figure[]> {
  const [ours, theirs]: [number[], number[]] = [[], []];
  let [equal, proved, compared] = [0, 0, 0];
  for (let seed = 0; seed < count; seed++) {
    const one = made(SEED * 1_000_039 + seed);
    let exact: number | null = null;
    theirs.push(await timed(async () => (exact = await oracle(one.lines, one.open))));
    let found = { value: 0, bound: 0 };
    ours.push(await timed(() => (found = solve(one))));
    if (found.value === found.bound) proved += 1;
    if (exact === null) continue;
    compared += 1;
    if (found.value === exact) equal += 1;
    else console.log(`${name} ${seed}: ${found.value}, the exact program ${String(exact)}`);
  }
  return [
    figure(`${name} equal`, '% of proved', (100 * equal) / compared, 100, compared, {
      words: '100 % equal',
      met: (value) => value === 100,
    }),
    figure(`${name} proved`, '% of all', (100 * proved) / count, 100, count),
    figure(`${name} time`, 'ms median', median(ours), median(theirs), count),
  ];
}

/** All goods cost less than their list prices, by which thresholds are tested. */
function groupPriceCase(seed: number): Case {
  const made = exactCase(seed);
  const lines = made.lines.map((line) => ({ ...line, net: Math.floor(line.regular * 0.85) }));
  return { ...made, lines };
}

/** Spend offers on everything, few enough for the program. */
function spendCase(seed: number): Case {
  const random = randomFrom(seed);
  const offers = randomOffers(random, 2 + Math.floor(random() * 3), {
    items: 12,
    kinds: ['spend'],
    combining: 0,
    limited: 0,
  });
  return caseOf(offers, randomBasket(random, 6 + Math.floor(random() * 8), 12));
}

/** Offers that combine, against every way there is: small baskets, and what is claimed to be proved of larger ones. */
function combiningFigures(count: number): Figure[] {
  let [equal, wrong, breaks, sets] = [0, 0, 0, 0];
  for (let seed = 0; seed < count; seed++) {
    const random = randomFrom(SEED * 1_000_081 + seed);
    const style = { items: 9, kinds: EVERY_KIND, combining: 0.5, limited: 0.4 };
    const offers = randomOffers(random, 2 + Math.floor(random() * 3), style);
    const one = caseOf(offers, randomBasket(random, 2 + Math.floor(random() * 4), style.items));
    const [{ value, bound }, most] = [solve(one), exhaustiveJointly(one.lines, offers)];
    if (value === most) equal += 1;
    if (bound < most) wrong += 1;
  }
  for (let seed = 0; seed < 10 * count; seed++) {
    const random = randomFrom(SEED * 1_000_099 + seed);
    const style = { items: 9, kinds: EVERY_KIND, combining: 0.4, limited: 0.4 };
    const offers = randomOffers(random, 2 + Math.floor(random() * 7), style);
    const lines = randomBasket(random, 2 + Math.floor(random() * 11), style.items);
    const { value } = solve(caseOf(offers, lines));
    sets += 1;
    if (solve(caseOf(offers.slice(1), lines)).value > value) breaks += 1;
    if (solve(caseOf(offers, lines.slice(1))).value > value) breaks += 1;
  }
  return [
    figure('offers-exact combining equal', '% of all', (100 * equal) / count, 100, count, {
      words: '100 % equal',
      met: (value) => value === 100,
    }),
    figure('offers-exact combining falsely proved', 'sets', wrong, count, count, {
      words: 'none',
      met: (value) => value === 0,
    }),
    figure('offers-exact laws broken', 'times', breaks, sets, sets, {
      words: 'never',
      met: (value) => value === 0,
    }),
  ];
}

/** 400 equal units: what is found, of what is proved to be the most there may be. */
function equalUnitsFigures(): Figure[] {
  const parts: number[] = [];
  for (let seed = 0; seed < 40; seed++) {
    const random = randomFrom(SEED * 1_000_117 + seed);
    const offers = randomOffers(random, 20 + Math.floor(random() * 31), {
      items: 4,
      kinds: EVERY_KIND,
      combining: 0,
      limited: 0.4,
    });
    const [line] = randomBasket(random, 1, 1);
    if (!line) continue;
    const net = line.regular * 400;
    const { value, bound } = solve(caseOf(offers, [{ ...line, quantity: 400_000, regular: net, net }]));
    if (bound > 0) parts.push((100 * value) / bound);
  }
  return [figure('offers-exact 400 equal', '% of bound', median(parts), 100, parts.length)];
}

export async function offersExact(): Promise<Figure[]> {
  return [
    ...(await asTheProgram('offers-exact', exactCase, EXACT_CASES)),
    ...(await asTheProgram('offers-exact group price', groupPriceCase, Math.ceil(EXACT_CASES / 4))),
    ...(await asTheProgram('offers-exact spend', spendCase, Math.ceil(EXACT_CASES / 4))),
    ...combiningFigures(Math.ceil(EXACT_CASES / 2)),
    ...equalUnitsFigures(),
  ];
}

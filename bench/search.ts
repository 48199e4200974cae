import { buildSearchIndex } from '../core/goods/search.ts';
import { largeShop } from '../demo/largeShop.ts';
import { seeded } from '../demo/random.ts';
import { figure, inTurn, median, quantile, timed, type Figure } from './measure.ts';

const ITEMS = 100_000;
const ROUNDS = 400;

/** What people type: one to three words, each cut off after some letters, and now and then an item number. */
function typedTexts(names: readonly string[], numbers: readonly string[], count: number): string[] {
  const random = seeded(11);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  return Array.from({ length: count }, () => {
    if (random() < 0.15) return pick(numbers);
    const words = pick(names)
      .toLowerCase()
      .split(/[\s,]+/);
    const many = 1 + Math.floor(random() * 3);
    return Array.from({ length: many }, () => {
      const word = pick(words);
      return word.slice(0, 1 + Math.floor(random() * word.length));
    }).join(' ');
  });
}

/** Searching 100,000 items as the Counter does; the floor is a plain filter over the same array. */
export async function search100k(): Promise<Figure[]> {
  const items = largeShop(ITEMS);
  let index = buildSearchIndex([]);
  const build = await timed(() => {
    index = buildSearchIndex(items);
  });
  const texts = typedTexts(
    items.map(({ name }) => name),
    items.map(({ number }) => number),
    ROUNDS + ROUNDS / 10,
  );
  const textOf = (round: number) => texts[round + ROUNDS / 10] ?? '';
  let found = 0;
  const [searched, filtered] = await inTurn(
    ROUNDS,
    (round) => {
      found += index.search(textOf(round), 12).length;
    },
    (round) => {
      const words = textOf(round).toLowerCase().split(' ');
      found += items.filter(({ name, number, category }) => {
        const text = `${name} ${number} ${category}`.toLowerCase();
        return words.every((word) => text.includes(word));
      }).length;
    },
  );
  if (found === 0) throw new Error('nothing was found');
  const p99 = quantile(searched, 0.99);
  return [
    figure('search-100k', 'ms p99', p99, quantile(filtered, 0.99), ROUNDS, {
      words: 'at most 1/20 of the floor, under 16 ms',
      met: (value, ratio) => ratio <= 1 / 20 && value < 16,
    }),
    figure('search-100k median', 'ms median', median(searched), median(filtered), ROUNDS),
    figure('search-100k build', 'ms once', build, median(filtered), 1),
  ];
}

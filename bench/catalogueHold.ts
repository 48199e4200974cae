import { browserOf } from '../server/testing/browser.ts';
import { alone, beside } from './beside.ts';
import { openLargeHouse } from './largeHouse.ts';
import { figure, median, quantile, type Figure } from './measure.ts';

const ROUNDS = 5;

/** How long a till waits for its basket while another one reads 100,000 items; alone it is the floor. */
export async function catalogueHold(): Promise<Figure[]> {
  const house = await openLargeHouse();
  try {
    const [reader, other] = [browserOf(() => house.url), browserOf(() => house.url)];
    await reader.signIn('1357', 1);
    await other.signIn('2468', 2);
    const look = () => other.ask('GET', '/counter/basket');
    const floor = median(await alone(look));
    const samples: number[] = [];
    for (let round = 0; round < ROUNDS; round++)
      samples.push(...(await beside(look, () => reader.ask('GET', '/goods/catalogue?since=0'))).samples);
    const goal = { words: 'under 500 ms', met: (value: number) => value < 500 };
    return [
      figure('catalogue-hold', 'ms median', median(samples), floor, samples.length),
      figure('catalogue-hold p99', 'ms p99', quantile(samples, 0.99), floor, samples.length),
      figure('catalogue-hold longest', 'ms', Math.max(...samples), floor, samples.length, goal),
    ];
  } finally {
    await house.stop();
  }
}

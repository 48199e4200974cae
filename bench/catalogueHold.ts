import { browserOf } from '../server/testing/browser.ts';
import { openLargeHouse } from './largeHouse.ts';
import { figure, median, quantile, timed, type Figure } from './measure.ts';

const ROUNDS = 5;
const ALONE = 200;

/** How long a till waits for its basket while another one reads 100,000 items; alone it is the floor. */
export async function catalogueHold(): Promise<Figure[]> {
  const house = await openLargeHouse();
  try {
    const [reader, other] = [browserOf(() => house.url), browserOf(() => house.url)];
    await reader.signIn('1357', 1);
    await other.signIn('2468', 2);
    const look = () => timed(() => other.ask('GET', '/counter/basket'));
    const alone: number[] = [];
    for (let round = 0; round < ALONE; round++) alone.push(await look());
    const beside: number[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      let reading = true;
      const whole = reader.ask('GET', '/goods/catalogue?since=0').finally(() => (reading = false));
      while (reading) beside.push(await look());
      await whole;
    }
    const floor = median(alone);
    const goal = { words: 'under 500 ms', met: (value: number) => value < 500 };
    return [
      figure('catalogue-hold', 'ms median', median(beside), floor, beside.length),
      figure('catalogue-hold p99', 'ms p99', quantile(beside, 0.99), floor, beside.length),
      figure('catalogue-hold longest', 'ms', Math.max(...beside), floor, beside.length, goal),
    ];
  } finally {
    await house.stop();
  }
}

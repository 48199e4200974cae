import { priceBasket, type LineToPrice } from '../core/pricing/price.ts';
import { largeShop } from '../demo/largeShop.ts';
import { figure, inTurn, median, quantile, type Figure } from './measure.ts';

const ROUNDS = 3000;

/** Pricing a basket of 100 lines; the floor adds up the same array. */
export async function pricing100Lines(): Promise<Figure[]> {
  const rates = [
    [{ id: 1, name: 'Sales tax', rate: 75_000 }],
    [{ id: 2, name: 'Printed music tax', rate: 25_000 }],
    [],
  ];
  const lines = largeShop(100).map((item, at): LineToPrice => ({
    id: String(at),
    quantity: 1000 + (at % 5) * 1000,
    listPrice: item.price ?? 0,
    rates: rates[at % 3] ?? [],
  }));
  let kept = 0;
  const [priced, added] = await inTurn(
    ROUNDS,
    () => {
      kept += priceBasket(lines, { taxMode: 'on-top', taxRounding: 'sale' }).total;
    },
    () => {
      for (const { quantity, listPrice } of lines) kept += Math.round((quantity * listPrice) / 1000);
    },
  );
  if (kept === 0) throw new Error('nothing was priced');
  return [
    figure('pricing-100-lines', 'ms median', median(priced), median(added), ROUNDS),
    figure('pricing-100-lines p99', 'ms p99', quantile(priced, 0.99), quantile(added, 0.99), ROUNDS),
  ];
}

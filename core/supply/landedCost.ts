import { multiplyDivide, sum, type Money } from '../money.ts';
import { ONE, type Quantity } from '../quantity.ts';

/** How freight and duty are spread over what came: by what it cost, by weight, or by how much it is. */
export const SPREADS = { value: 'By value', weight: 'By weight', quantity: 'By quantity' } as const;
export type SpreadBy = keyof typeof SPREADS;

/** A line of a delivery. @property cost of all of it @property weight grams of a unit; null where nobody knows */
export interface CameLine {
  quantity: Quantity;
  cost: Money;
  weight: number | null;
}

/** What so much costs at a price for a unit, half away from zero. */
export const goodsCost = (quantity: Quantity, unitCost: Money): Money =>
  multiplyDivide(unitCost, quantity, ONE);

/**
 * Each line's part of the freight: what all lines up to it carry less what those before it do, rounded half away from
 * zero, so that the parts always add up to the freight and none is off by more than one. Where nothing has the weight
 * asked for, it goes by quantity.
 */
export function freightParts(lines: readonly CameLine[], freight: Money, by: SpreadBy): Money[] {
  const wanted = lines.map((line) => weightOf(line, by));
  const weights = sum(wanted) > 0 ? wanted : lines.map(({ quantity }) => quantity);
  const whole = sum(weights);
  let before = 0;
  let carried = 0;
  return weights.map((weight) => {
    before += weight;
    const until = whole === 0 ? 0 : multiplyDivide(freight, before, whole);
    const part = until - carried;
    carried = until;
    return part;
  });
}

function weightOf({ quantity, cost, weight }: CameLine, by: SpreadBy): number {
  if (by === 'value') return cost;
  return by === 'weight' ? multiplyDivide(weight ?? 0, quantity, ONE) : quantity;
}

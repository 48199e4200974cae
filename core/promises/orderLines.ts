import { sum } from '../money.ts';
import { formatQuantity, type Quantity } from '../quantity.ts';
import { partLine, type PromiseLine } from './promised.ts';
import type { SourcePart } from './sources.ts';
import type { Way } from './ways.ts';

/** How a line gets to the customer, as it was chosen. */
export interface LineWay {
  way: Way;
  /** Where it is picked. */
  parts: readonly SourcePart[];
  /** Units that no place has yet. */
  missing: Quantity;
}

/** Places by what an order wants of them. */
export interface OrderPlaces {
  /** Where the till is: what is taken along leaves here. */
  here: number;
  /** Where goods are collected; nothing where none are. */
  collectAt: number | null;
  nameOf(placeId: number): string;
}

/** Where what is missing is waited for. */
const waitsAt = ({ way, parts }: LineWay, { here, collectAt }: OrderPlaces): number =>
  (way === 'collect' ? collectAt : parts[0]?.placeId) ?? here;

/** Why a line cannot be ordered like that; `null` where it can. */
export function wayProblem(
  line: Pick<PromiseLine, 'name' | 'quantity' | 'serial'>,
  chosen: LineWay,
  places: OrderPlaces,
): string | null {
  const { way, parts, missing } = chosen;
  if (way === 'take')
    return parts.length > 0 || missing > 0 ? `${line.name} is taken along from here.` : null;
  if (way === 'collect' && places.collectAt === null) return `Where is ${line.name} collected?`;
  if (new Set(parts.map(({ placeId }) => placeId)).size < parts.length)
    return `${line.name} names a place twice.`;
  if (sum(parts.map(({ quantity }) => quantity)) + missing !== line.quantity)
    return `Say where all ${formatQuantity(line.quantity)} of ${line.name} come from.`;
  return line.serial !== null && parts.length + Number(missing > 0) > 1
    ? `${line.name} is one piece with a number: it comes from one place.`
    : null;
}

/**
 * A line as the lines of an order: one for each place that goods come from. Together they cost what the line does.
 * @param stocked what is not kept in stock needs no picking
 */
export function orderLines(
  line: PromiseLine,
  chosen: LineWay,
  places: OrderPlaces,
  stocked: boolean,
): PromiseLine[] {
  const { way } = chosen;
  const wanted = new Map<number, { quantity: Quantity; short: Quantity }>();
  const add = (placeId: number, quantity: Quantity, short: Quantity) => {
    const known = wanted.get(placeId) ?? { quantity: 0, short: 0 };
    wanted.set(placeId, { quantity: known.quantity + quantity, short: known.short + short });
  };
  if (way === 'take') add(places.here, line.quantity, 0);
  else if (!stocked) add(waitsAt(chosen, places), line.quantity, 0);
  else {
    for (const { placeId, quantity } of chosen.parts) add(placeId, quantity, 0);
    if (chosen.missing > 0) add(waitsAt(chosen, places), chosen.missing, chosen.missing);
  }
  const lines: PromiseLine[] = [];
  let rest = line;
  for (const [placeId, { quantity, short }] of wanted) {
    let mine = rest;
    if (quantity < rest.quantity) [mine, rest] = partLine(rest, quantity);
    const picked = way === 'take' || !stocked ? quantity : 0;
    lines.push({
      ...mine,
      order: { way, placeId, place: places.nameOf(placeId), picked, short, sent: false },
    });
  }
  return lines;
}

import { sum } from '../money.ts';
import type { Quantity } from '../quantity.ts';

/** A point on the earth, in degrees. */
export interface Point {
  latitude: number;
  longitude: number;
}

/** A place that may have goods. */
export interface Source {
  placeId: number;
  place: string;
  /** Where it is; nothing where the shop has not said so. */
  at: Point | null;
  /** What can be sold there. */
  available: Quantity;
}

/** What places are sorted by. */
export const SOURCE_ORDERS = { distance: 'Distance', stock: 'Stock', name: 'Name' } as const;
export type SourceOrder = keyof typeof SOURCE_ORDERS;

/** The mean radius of the earth (IUGG), km. */
const EARTH_KM = 6371.0088;
const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** How far two points are from each other along the great circle, by the haversine formula, in km. */
export function distanceKm(a: Point, b: Point): number {
  const half =
    Math.sin(radians(b.latitude - a.latitude) / 2) ** 2 +
    Math.cos(radians(a.latitude)) *
      Math.cos(radians(b.latitude)) *
      Math.sin(radians(b.longitude - a.longitude) / 2) ** 2;
  return 2 * EARTH_KM * Math.asin(Math.min(1, Math.sqrt(half)));
}

/** A source, and how far it is from where the goods are wanted; nothing where that is not known. */
export type SourceAt<S extends Source = Source> = S & { km: number | null };

/** Sources as they are listed: what is wanted first comes first; what is equal, by name. */
export function sortSources<S extends Source>(
  sources: readonly S[],
  by: SourceOrder,
  to: Point | null,
): SourceAt<S>[] {
  const measured = sources.map((one) => ({ ...one, km: to && one.at ? distanceKm(to, one.at) : null }));
  const byName = (a: Source, b: Source) => a.place.localeCompare(b.place);
  const compare: Record<SourceOrder, (a: SourceAt, b: SourceAt) => number> = {
    name: byName,
    stock: (a, b) => b.available - a.available || byName(a, b),
    distance: (a, b) => (a.km ?? Infinity) - (b.km ?? Infinity) || byName(a, b),
  };
  return measured.toSorted((a, b) => {
    const order = compare[by](a, b);
    return Number.isNaN(order) ? byName(a, b) : order;
  });
}

/** So many units from a place. */
export interface SourcePart {
  placeId: number;
  quantity: Quantity;
}

/**
 * Where goods come from: all from one place where one has them, the nearest first; else from as few as it takes, those
 * with the most first. @returns the parts, and what no place has
 */
export function suggestSources(
  wanted: Quantity,
  sources: readonly Source[],
  to: Point | null,
): { parts: SourcePart[]; missing: Quantity } {
  const near = sortSources(sources, 'distance', to);
  const whole = near.find(({ available }) => available >= wanted);
  if (whole) return { parts: [{ placeId: whole.placeId, quantity: wanted }], missing: 0 };
  const parts: SourcePart[] = [];
  for (const { placeId, available } of near.toSorted((a, b) => b.available - a.available)) {
    const quantity = Math.min(available, wanted - sum(parts.map((part) => part.quantity)));
    if (quantity > 0) parts.push({ placeId, quantity });
  }
  return { parts, missing: wanted - sum(parts.map(({ quantity }) => quantity)) };
}

import { kindOf } from './kinds/kinds.ts';
import type { Contender } from './offerTable.ts';
import { howMany, type OfferUnit } from './offerUnits.ts';

/** Goods and offers that have to do with one another, and with no others. */
export interface OfferRoom {
  units: OfferUnit[];
  /** By place among the units of the room. */
  contenders: Contender[];
  /** Places of the units in the basket. */
  places: number[];
}

/**
 * Parts a basket into what has nothing to do with one another. An offer that takes its part of every unit for itself
 * ties nothing together: it is in every room, with the units there.
 */
export function offerRooms(units: readonly OfferUnit[], contenders: readonly Contender[]): OfferRoom[] {
  const root = units.map((_, at) => at);
  const rootOf = (at: number): number => {
    let top = at;
    while (root[top] !== top) top = root[top] as number;
    while (root[at] !== top) [at, root[at]] = [root[at] as number, top];
    return top;
  };
  const touched = new Set<number>();
  for (const contender of contenders) {
    const first = rootOf(contender.candidates[0]?.place ?? 0);
    const ties = !isForEach(units, contender);
    for (const { place } of contender.candidates) {
      touched.add(place);
      if (ties) root[rootOf(place)] = rootOf(first);
    }
  }
  const rooms = new Map<number, OfferRoom>();
  const placeIn: number[] = [];
  units.forEach((unit, at) => {
    if (!touched.has(at)) return;
    const room = rooms.get(rootOf(at)) ?? { units: [], contenders: [], places: [] };
    rooms.set(rootOf(at), room);
    placeIn[at] = room.places.push(at) - 1;
    room.units.push(unit);
  });
  for (const { open, candidates } of contenders) {
    const byRoom = new Map<OfferRoom, Contender['candidates'][number][]>();
    for (const { place, groups } of candidates) {
      const room = rooms.get(rootOf(place)) as OfferRoom;
      const mine = byRoom.get(room) ?? [];
      byRoom.set(room, mine);
      mine.push({ place: placeIn[place] ?? 0, groups });
    }
    for (const [room, mine] of byRoom) room.contenders.push({ open, candidates: mine });
  }
  return [...rooms.values()];
}

/** Whether an offer looks at every unit for itself, and at as many as there are. */
export function isForEach(
  units: readonly OfferUnit[],
  { open: { offer, limit }, candidates }: Contender,
): boolean {
  const enough = limit >= howMany(candidates.map(({ place }) => units[place] as OfferUnit));
  return enough && kindOf(offer.rule).single;
}

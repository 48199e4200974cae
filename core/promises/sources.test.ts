import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../money.ts';
import { ONE } from '../quantity.ts';
import { distanceKm, sortSources, suggestSources, type Source } from './sources.ts';

describe('distances', () => {
  it('are those of the great circle: a quarter of the meridian is 10,007.5 km', () => {
    expect(distanceKm({ latitude: 0, longitude: 0 }, { latitude: 90, longitude: 0 })).toBeCloseTo(
      10_007.56,
      1,
    );
    expect(distanceKm({ latitude: 0, longitude: 0 }, { latitude: 0, longitude: 180 })).toBeCloseTo(
      20_015.1,
      1,
    );
  });

  it('are the same both ways, and never below zero', () => {
    const point = fc.record({
      latitude: fc.double({ min: -90, max: 90, noNaN: true }),
      longitude: fc.double({ min: -180, max: 180, noNaN: true }),
    });
    fc.assert(
      fc.property(point, point, (a, b) => {
        expect(distanceKm(a, b)).toBeCloseTo(distanceKm(b, a), 6);
        expect(distanceKm(a, b)).toBeGreaterThanOrEqual(0);
        expect(distanceKm(a, b)).toBeLessThanOrEqual(20_015.2);
      }),
    );
  });
});

const source = (placeId: number, available: number, longitude: number | null): Source => ({
  placeId,
  place: `P${placeId}`,
  at: longitude === null ? null : { latitude: 0, longitude },
  available: available * ONE,
});
const HERE = { latitude: 0, longitude: 0 };

describe('where goods come from', () => {
  const sources = [source(3, 9, 5), source(1, 1, 0), source(2, 4, 1), source(4, 4, null)];

  it('is listed by stock, distance or name; what is nowhere comes last', () => {
    const order = (by: 'stock' | 'distance' | 'name') =>
      sortSources(sources, by, HERE).map(({ placeId }) => placeId);
    expect(order('stock')).toEqual([3, 2, 4, 1]);
    expect(order('distance')).toEqual([1, 2, 3, 4]);
    expect(order('name')).toEqual([1, 2, 3, 4]);
    expect(sortSources(sources, 'distance', null).map(({ km }) => km)).toEqual([null, null, null, null]);
  });

  it('is the nearest place that has all, else as few as it takes', () => {
    expect(suggestSources(2 * ONE, sources, HERE)).toEqual({
      parts: [{ placeId: 2, quantity: 2 * ONE }],
      missing: 0,
    });
    expect(suggestSources(12 * ONE, sources, HERE).parts.map(({ placeId }) => placeId)).toEqual([3, 2]);
    expect(suggestSources(20 * ONE, sources, HERE).missing).toBe(2 * ONE);
  });

  it('adds up to what is wanted, and takes no more than a place has', () => {
    const some = fc.array(
      fc.record({
        placeId: fc.nat(20),
        available: fc.integer({ min: -5, max: 20 }),
        at: fc.option(fc.nat(100)),
      }),
      { maxLength: 6 },
    );
    fc.assert(
      fc.property(some, fc.integer({ min: 1, max: 50 }), (list, wanted) => {
        const places = list.map(({ placeId, available, at }, nth) =>
          source(placeId + 100 * nth, available, at),
        );
        const { parts, missing } = suggestSources(wanted * ONE, places, HERE);
        expect(sum(parts.map(({ quantity }) => quantity)) + missing).toBe(wanted * ONE);
        expect(missing).toBeGreaterThanOrEqual(0);
        for (const { placeId, quantity } of parts) {
          expect(quantity).toBeGreaterThan(0);
          expect(quantity).toBeLessThanOrEqual(places.find((one) => one.placeId === placeId)?.available ?? 0);
        }
      }),
    );
  });
});

import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { carrierStandIn } from './standIn.ts';
import { isTrackingNumber, trackingNumber } from './trackingNumber.ts';

const PARCEL = {
  reference: '7d2f',
  to: { name: 'Ada', street: 'Mill Lane 3', postcode: '40112', city: 'Dunmere', phone: '' },
  weight: 800,
};

describe('a tracking number', () => {
  it('has the check digit of the standard: its own example is read right', () => {
    // UPU S10-12, annex: 47312482 has the check digit 9.
    expect(trackingNumber(47_312_482)).toBe('CM473124829ZZ');
  });

  it('of which one digit is read wrong is no tracking number', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 99_999_999 }),
        fc.integer({ min: 2, max: 9 }),
        fc.integer({ min: 1, max: 9 }),
        (serial, at, by) => {
          const right = trackingNumber(serial);
          expect(isTrackingNumber(right)).toBe(true);
          const digit = (Number(right[at]) + by) % 10;
          const wrong = right.slice(0, at) + String(digit) + right.slice(at + 1);
          // Sums of 0 and 1 modulo 11 share no check digit with others but 5 and 0 stand for two each.
          fc.pre(!['0', '5'].includes(right[10] ?? ''));
          expect(isTrackingNumber(wrong)).toBe(false);
        },
      ),
    );
  });
});

describe('the carrier', () => {
  let folder = '';
  beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'mondrel-carrier-'))));
  afterEach(() => rmSync(folder, { recursive: true }));

  it('gives a parcel one number, however often it is asked', async () => {
    const first = await carrierStandIn(folder).register(PARCEL);
    expect(isTrackingNumber(first)).toBe(true);
    expect(await carrierStandIn(folder).register(PARCEL)).toBe(first);
    expect(await carrierStandIn(folder).register({ ...PARCEL, reference: '7d30' })).not.toBe(first);
  });

  it('that cannot be reached says so', async () => {
    writeFileSync(join(folder, 'closed'), '');
    await expect(carrierStandIn(folder).register(PARCEL)).rejects.toThrow('cannot be reached');
  });
});

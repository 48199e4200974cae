import { describe, expect, it } from 'vitest';
import { ONE } from '../quantity.ts';
import { formatWeight, shipFee, weightOf, zoneOf, type ShipZone } from './shipping.ts';

describe('shipping', () => {
  const zones: ShipZone[] = [
    { name: 'Town', postcodes: ['401'], steps: [{ upTo: 2_000, fee: 450 }] },
    { name: 'Harbour', postcodes: ['40177'], steps: [{ upTo: 2_000, fee: 300 }] },
    {
      name: 'Country',
      postcodes: [],
      steps: [
        { upTo: 1_000, fee: 690 },
        { upTo: 5_000, fee: 1_150 },
      ],
    },
  ];

  it('costs what the zone that names most of the postcode says for the weight', () => {
    expect(zoneOf(zones, '401 12')?.name).toBe('Town');
    expect(zoneOf(zones, '40177')?.name).toBe('Harbour');
    expect(shipFee(zones, '90210', 1_000)).toEqual({ zone: 'Country', fee: 690 });
    expect(shipFee(zones, '90210', 1_001)).toEqual({ zone: 'Country', fee: 1_150 });
    expect(shipFee(zones, '90210', 5_001)).toBe(
      'To Country a parcel weighs at most 5 kg; this one has 5.001 kg.',
    );
    expect(shipFee(zones.slice(0, 1), '90210', 100)).toBe('The shop does not ship there.');
  });

  it('weighs all that is in it, rounded up; what is not known weighs what items usually do', () => {
    expect(
      weightOf(
        [
          { weight: 100, quantity: 2_500 },
          { weight: null, quantity: ONE },
        ],
        400,
      ),
    ).toBe(650);
    expect(weightOf([{ weight: 3, quantity: 500 }], 0)).toBe(2);
    expect(formatWeight(450)).toBe('0.45 kg');
  });
});

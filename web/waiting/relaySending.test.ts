import { describe, expect, it } from 'vitest';
import type { PartnerAtTill } from '../../contract/relay.ts';
import { usualSending } from './relaySending.ts';

const partner = (change: Partial<PartnerAtTill>): PartnerAtTill => ({
  id: 1,
  code: 'NEAR',
  name: 'Near',
  city: '',
  phone: '',
  postcodes: ['512'],
  timezone: 'UTC',
  cutOffs: ['14:00', '14:00', '14:00', '14:00', '14:00', null, null],
  takes: '',
  rate: 800_000,
  active: true,
  // A Monday.
  now: { day: '2026-03-02', time: '10:00' },
  ...change,
});
const OF = { postcode: '51200', price: 50_00, digits: 2 };

describe('what is most likely when something is passed on', () => {
  it('is the partner of the area, today, for their usual part', () => {
    const everywhere = partner({ id: 2, name: 'All', postcodes: [] });
    expect(usualSending([everywhere, partner({})], OF)).toEqual({
      partnerId: 1,
      day: '2026-03-02',
      part: '40.00',
    });
    expect(usualSending([everywhere, partner({})], { ...OF, postcode: '99' }).partnerId).toBe(2);
    expect(usualSending([partner({})], { ...OF, postcode: '99' })).toEqual({
      partnerId: 0,
      day: '',
      part: '',
    });
  });

  it('is the first day on which it is not too late, and never a day before it', () => {
    const late = partner({ now: { day: '2026-03-06', time: '14:01' } });
    expect(usualSending([late], OF).day).toBe('2026-03-09');
    expect(usualSending([late], OF, { partnerId: 1, day: '2026-03-06' }).day).toBe('2026-03-09');
    expect(usualSending([late], OF, { partnerId: 1, day: '2026-03-10' }).day).toBe('2026-03-10');
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  areaProblem,
  bookProblem,
  firstRelayDay,
  giveUpProblem,
  MOST_DAYS,
  partProblem,
  relayDayProblem,
  relayStep,
  resendProblem,
  usualPart,
} from './relay.ts';

const WEEKDAYS = ['14:00', '14:00', '14:00', '14:00', '14:00', '11:00', null];
const NEAR = { name: 'Near', cutOffs: WEEKDAYS, active: true };
/** A Monday. */
const NOW = { day: '2026-03-02', time: '14:00' };

describe('the day on which a partner delivers', () => {
  it('is today until the cut-off of their own clock', () => {
    expect(relayDayProblem(NEAR, NOW.day, NOW)).toBeNull();
    expect(relayDayProblem(NEAR, NOW.day, { ...NOW, time: '14:01' })).toBe(
      'Too late for today: Near takes orders until 2:00 PM, and it is 2:01 PM there.',
    );
    expect(relayDayProblem(NEAR, '2026-03-08', NOW)).toContain('Sundays');
    expect(relayDayProblem(NEAR, '2026-03-01', NOW)).toContain('over');
    expect(relayDayProblem(NEAR, '2026-12-01', NOW)).toContain(String(MOST_DAYS));
    expect(relayDayProblem(NEAR, 'soon', NOW)).toBe('On which day?');
    expect(relayDayProblem({ ...NEAR, active: false }, NOW.day, NOW)).toContain('takes no orders');
  });

  it('is the first one that is not too late, whatever the time', () => {
    const time = fc.tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }));
    const cutOffs = fc.array(fc.option(fc.constantFrom('00:00', '11:00', '14:00', '23:59')), {
      minLength: 7,
      maxLength: 7,
    });
    fc.assert(
      fc.property(cutOffs, time, (days, [hours, minutes]) => {
        const partner = { ...NEAR, cutOffs: days };
        const two = (figure: number) => String(figure).padStart(2, '0');
        const now = { day: NOW.day, time: `${two(hours)}:${two(minutes)}` };
        const first = firstRelayDay(partner, now);
        if (first === null) {
          expect(days.every((one) => one === null)).toBe(true);
          return;
        }
        expect(relayDayProblem(partner, first, now)).toBeNull();
        for (
          let day = now.day;
          day < first;
          day = new Date(Date.parse(day) + 86_400_000).toISOString().slice(0, 10)
        )
          expect(relayDayProblem(partner, day, now)).not.toBeNull();
      }),
    );
  });
});

describe('a relay', () => {
  it('goes where a partner delivers, for no more than the customer pays', () => {
    expect(areaProblem({ name: 'Near', postcodes: ['51 2'] }, '51200')).toBeNull();
    expect(areaProblem({ name: 'Near', postcodes: ['51 2'] }, '51300')).toContain('does not deliver');
    expect(areaProblem({ name: 'Near', postcodes: [] }, '')).toBeNull();
    expect(usualPart(50_00, { rate: 800_000 })).toBe(40_00);
    expect(partProblem(50_00, 50_00)).toBeNull();
    expect(partProblem(50_01, 50_00)).not.toBeNull();
  });

  it('follows what the partner says, and nothing that comes too late', () => {
    expect(relayStep('sent', 'accepted')).toBe('accepted');
    expect(relayStep('accepted', 'refused')).toBe('refused');
    expect(relayStep('accepted', 'delivered')).toBe('delivered');
    for (const late of ['accepted', 'refused', 'delivered'] as const) {
      expect(relayStep('withdrawn', late)).toBeNull();
      expect(relayStep('delivered', late)).toBeNull();
      expect(relayStep('refused', late)).toBeNull();
    }
    expect(relayStep('sent', 'question')).toBeNull();
  });

  it('is with one partner at a time: sent again, given up or booked only when they have not got it', () => {
    expect(resendProblem('refused')).toBeNull();
    expect(resendProblem('sent')).not.toBeNull();
    expect(giveUpProblem('sent')).toBeNull();
    expect(giveUpProblem('accepted')).not.toBeNull();
    expect(bookProblem('accepted')).not.toBeNull();
    expect(bookProblem('delivered')).toBeNull();
  });
});

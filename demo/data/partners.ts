import type { PartnerSettings } from '../../contract/relay.ts';

const weekdays = (until: string, saturday: string | null): (string | null)[] => [
  until,
  until,
  until,
  until,
  until,
  saturday,
  null,
];

/** Shops near people who live far from Ostler Lane. */
export const PARTNERS: readonly PartnerSettings[] = [
  {
    code: 'CORRAN',
    name: 'Corran Music',
    city: 'Dunmere',
    phone: '555-0171',
    postcodes: ['512'],
    timezone: 'America/New_York',
    cutOffs: weekdays('14:00', '11:00'),
    takes: 'Instruments, strings, printed music',
    rate: 800_000,
    active: true,
  },
  {
    code: 'TALLIS',
    name: 'Tallis & Reed',
    city: 'Wexcombe',
    phone: '555-0188',
    postcodes: ['77', '78'],
    timezone: 'America/Los_Angeles',
    cutOffs: weekdays('15:30', null),
    takes: 'Reeds, woodwind, repairs',
    rate: 750_000,
    active: true,
  },
  {
    code: 'FARHARP',
    name: 'Far Harp Delivery',
    city: 'Oldbridge',
    phone: '555-0193',
    postcodes: [],
    timezone: 'America/Chicago',
    cutOffs: weekdays('12:00', null),
    takes: 'Whatever goes by post',
    rate: 850_000,
    active: true,
  },
];

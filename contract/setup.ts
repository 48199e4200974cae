import { array, boolean, number, object, string, type InferType } from 'yup';
import { CURRENCIES, type Currency } from '../core/payment/currency.ts';
import type { TaxMode, TaxRate, TaxRounding } from '../core/offers/tax.ts';
import { RIGHTS, ROLES, type Right, type Role } from '../core/staff/rights.ts';
import { PIN_PATTERN } from '../core/staff/pinDelay.ts';

const word = (label: string, most: number) =>
  string()
    .trim()
    .required(`${label} is missing.`)
    .max(most, ({ max }) => `${label} can have at most ${max} characters.`);

/** The first-run page: the shop, its tax and its first manager. */
export const firstRunSchema = object({
  shopName: word('The name of the shop', 80),
  placeName: word('The name of the place', 80),
  currency: string()
    .oneOf(
      CURRENCIES.map(({ code }) => code),
      'Choose a currency from the list.',
    )
    .required('Choose a currency.'),
  timezone: string()
    .required('Choose a time zone.')
    .test('zone', 'This time zone is not known.', (zone) => {
      try {
        return Boolean(new Intl.DateTimeFormat('en', { timeZone: zone }));
      } catch {
        return false;
      }
    }),
  taxMode: string()
    .oneOf(['on-top', 'inside'] as const)
    .required('Say how prices and tax go together.'),
  taxes: array()
    .of(
      object({
        name: word('The name of the tax', 60),
        rate: number()
          .integer()
          .min(0, 'A rate is at least 0 %.')
          .max(1_000_000, 'A rate is at most 100 %.')
          .required('The rate is missing.'),
      }),
    )
    .min(1, 'Name at least one tax category. Its rate may be 0 %.')
    .max(20)
    .required()
    .test(
      'distinct',
      'Each tax category needs a name of its own.',
      (taxes) => new Set(taxes?.map(({ name }) => name.toLowerCase())).size === taxes?.length,
    ),
  managerName: word('The name of the manager', 60),
  managerPin: string().required('The PIN is missing.').matches(PIN_PATTERN, 'A PIN has 4 to 8 digits.'),
});
export type FirstRun = InferType<typeof firstRunSchema>;

/** What a browser needs to know before anybody has signed in. */
export interface Welcome {
  /** Whether the shop has been set up. */
  ready: boolean;
  shopName: string;
  tills: { id: number; number: number; place: string }[];
  lockMinutes: number;
  /** Only with demo data. */
  demoPins: { name: string; role: string; pin: string }[];
}

/** What a till needs to know about its shop. */
export interface TillFacts {
  till: { id: number; number: number; placeId: number; place: string };
  shop: {
    name: string;
    locale: string;
    timezone: string;
    taxMode: TaxMode;
    taxRounding: TaxRounding;
    openingFloat: number;
    openPriceLimit: number;
    lockMinutes: number;
  };
  currency: Currency;
  /** Rates by tax category. */
  taxRates: Record<number, TaxRate[]>;
}

/** What the shop can change about itself at any time. */
export const shopSettingsSchema = object({
  name: word('The name of the shop', 80),
  openingFloat: number()
    .integer()
    .min(0, 'The float cannot be below zero.')
    .required('Type the usual float.'),
  openPriceLimit: number().integer().min(0, 'The limit cannot be below zero.').required('Type the limit.'),
  lockMinutes: number()
    .integer()
    .min(0)
    .max(240, 'At most 240 minutes.')
    .required('After how many minutes? 0 is never.'),
  receiptWords: array().of(string().trim().max(80).defined()).max(6, 'At most six lines.').required(),
  receiptThanks: string().trim().max(120, 'At most 120 characters.').defined(),
});
export type ShopSettings = InferType<typeof shopSettingsSchema>;

const role = string().oneOf(ROLES).required('Choose a role.');

export const newStaffSchema = object({
  name: word('The name', 60),
  role,
  pin: string().required('The PIN is missing.').matches(PIN_PATTERN, 'A PIN has 4 to 8 digits.'),
});

/** Changes somebody; a new PIN only where one is typed. */
export const changeStaffSchema = object({
  name: word('The name', 60),
  role,
  active: boolean().required(),
  pin: string().matches(PIN_PATTERN, 'A PIN has 4 to 8 digits.'),
});

export const rightSchema = object({
  role,
  right: string()
    .oneOf(Object.keys(RIGHTS) as Right[])
    .required(),
  granted: boolean().required(),
});

export const newPlaceSchema = object({
  name: word('The name of the place', 80),
  kind: string()
    .oneOf(['shop', 'stock'] as const)
    .required(),
});

export const newTillSchema = object({
  number: number().integer().min(1, 'Tills are numbered from 1.').max(999).required('Type a number.'),
  placeId: number().integer().required('Choose a place.'),
});

export interface StaffMember {
  id: number;
  name: string;
  role: Role;
  active: boolean;
}

/** Everything that the Setup page shows. */
export interface SetupFacts {
  shop: ShopSettings;
  staff: StaffMember[];
  rights: Record<Role, Right[]>;
  places: { id: number; name: string; kind: 'shop' | 'stock' }[];
  tills: Welcome['tills'];
}

import { array, number, object, string, type InferType } from 'yup';
import { CURRENCIES, type Currency } from '../core/payment/currency.ts';
import type { TaxMode, TaxRate, TaxRounding } from '../core/offers/tax.ts';
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

import type { PointsMore } from './points.ts';
import type { AccountRules } from './accounts.ts';
import type { MoneyItem } from '../core/promises/promised.ts';
import type { Programme } from '../core/people/loyalty.ts';
import type { Offer } from '../core/offers/offer.ts';
import type { OfferCount } from './offers.ts';
import type { PaymentFacts } from './payment.ts';
import { RECEIPT_TERMS, type ReceiptTerm, type ReceiptTerms } from '../core/journal/receipt.ts';
import { array, boolean, object, string, whole, day, type InferType } from './yup.ts';
import { CURRENCIES, type Currency } from '../core/payment/currency.ts';
import { LOCALES } from '../core/locale.ts';
import type { LayawayRules } from '../core/promises/plan.ts';
import type { OrderPlace } from '../core/promises/order.ts';
import type { ChannelFacts } from './channels.ts';
import type { Partner } from '../core/promises/relay.ts';
import type { OrderSettings } from './orders.ts';
import type { LayawaySettings } from './promises.ts';
import type { TaxMode, TaxRounding } from '../core/pricing/tax.ts';
import type { DiscountPreset } from '../core/pricing/discount.ts';
import type { Rate } from '../core/rate.ts';
import type { DatedRate } from '../core/pricing/taxRates.ts';
import type { SettingChange } from '../core/setup/changes.ts';
import { SETUP_SECTIONS } from '../core/setup/sections.ts';
import type { SetupProgress } from '../core/setup/checklist.ts';
import { isCodeLayout } from '../core/goods/embeddedCode.ts';
import { RIGHTS, ROLES, type Right, type Role } from '../core/staff/rights.ts';
import { PIN_PATTERN } from '../core/staff/pinDelay.ts';

const word = (label: string, most: number) =>
  string()
    .trim()
    .required(`${label} is missing.`)
    .max(most, ({ max }) => `${label} can have at most ${max} characters.`);

const timezone = () =>
  string()
    .required('Choose a time zone.')
    .test('zone', 'This time zone is not known.', (zone) => {
      try {
        return Boolean(new Intl.DateTimeFormat('en', { timeZone: zone }));
      } catch {
        return false;
      }
    });

const locale = () => string().oneOf(LOCALES, 'Choose how amounts, dates and times are written.');

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
  timezone: timezone(),
  locale: locale().default('en-US'),
  taxMode: string()
    .oneOf(['on-top', 'inside'] as const)
    .required('Say how prices and tax go together.'),
  taxes: array()
    .of(
      object({
        name: word('The name of the tax', 60),
        rate: whole()
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
  /** How much each role refunds alone; `null` is any amount. */
  refundLimits: Record<Role, number | null>;
  /** What the server's clock shows: a till goes by it, whatever its own says. */
  now: string;
  till: { id: number; number: number; placeId: number; place: string };
  shop: {
    name: string;
    locale: string;
    timezone: string;
    dayEnds: number;
    taxMode: TaxMode;
    taxRounding: TaxRounding;
    openingFloat: number;
    openPriceLimit: number;
    lockMinutes: number;
    /** How codes with a price or weight inside are read. */
    codeLayouts: string[];
    /** Above so much cash a safe drop is suggested; zero is never. */
    dropAbove: number;
    /** Whether the drawer is counted without seeing what is expected. */
    blindCount: boolean;
    /** Whether the drawer may be opened with what was left in it, without counting. */
    openAsLeft: boolean;
    /** Whether the drawer may be counted as one total when it is closed. */
    countAsTotal: boolean;
    /** What unlisted things are sold as; `null` where the shop sells none. */
    openItemId: number | null;
  };
  currency: Currency;
  taxCategories: { id: number; name: string }[];
  /** How goods are set aside and paid off. */
  layaway: LayawayRules;
  /** What the shop gives points for. */
  points: Programme;
  /** What money for house accounts is rung up as, and how a new account begins. */
  accounts: { item: MoneyItem | null; rules: AccountRules };
  discountPresets: DiscountPreset[];
  /** How much discount each role gives alone. */
  discountLimits: Record<Role, Rate>;
  /** Rates in force and to come. */
  taxRates: DatedRate[];
  /** Offers in force and to come. */
  offers: Offer[];
  /** How far those with a limit are used. */
  offerCounts: OfferCount[];
  /** Codes that open an offer any number of times: the till knows them by sight. */
  offerCodes: string[];
  payment: PaymentFacts;
}

/** What the shop can change about itself at any time. */
export const shopSettingsSchema = object({
  name: word('The name of the shop', 80),
  timezone: timezone(),
  locale: locale().required(),
  dayEnds: whole()
    .min(0, 'The day ends at midnight or later.')
    .max(8, 'At most eight hours after midnight.')
    .required('When does the day end? 0 is at midnight.'),
  summaryMail: string().trim().max(200).email('This is no mail address.').default(''),
  openingFloat: whole().min(0, 'The float cannot be below zero.').required('Type the usual float.'),
  openPriceLimit: whole().min(0, 'The limit cannot be below zero.').required('Type the limit.'),
  lockMinutes: whole()
    .min(0)
    .max(240, 'At most 240 minutes.')
    .required('After how many minutes? 0 is never.'),
  taxRounding: string()
    .oneOf(['sale', 'line'] as const)
    .required('Say how tax is rounded.'),
  receiptWords: array().of(string().trim().max(80).defined()).max(6, 'At most six lines.').required(),
  receiptThanks: string().trim().max(120, 'At most 120 characters.').defined(),
  /** A picture of at most 384 dots across, as a data URL, or nothing. */
  receiptLogo: string()
    .max(200_000, 'The picture is too large.')
    .matches(/^(data:image\/png;base64,[A-Za-z0-9+/=]+)?$/, 'The logo has to be a picture.')
    .default(''),
  receiptTerms: object(
    Object.fromEntries(
      Object.keys(RECEIPT_TERMS).map((term) => [term, string().trim().max(30, 'At most 30 characters.')]),
    ) as Record<ReceiptTerm, ReturnType<typeof string>>,
  ).default({}),
  receiptLocale: string().oneOf(LOCALES, 'Choose how amounts are written.').default('en-US'),
  mailFrom: string().trim().email('This is no mail address.').default(''),
  codeLayouts: array()
    .of(
      string()
        .trim()
        .required()
        .test(
          'layout',
          '13 letters: 2 digits from 20 to 29, I for the item, P for a price or W for a weight, C for the check digit.',
          (text) => isCodeLayout(text),
        ),
    )
    .max(10)
    .required()
    .test(
      'distinct',
      'Each range from 20 to 29 can be read in one way only.',
      (layouts) => new Set(layouts?.map((layout) => layout.slice(0, 2))).size === layouts?.length,
    ),
});
export type ShopSettings = Omit<InferType<typeof shopSettingsSchema>, 'receiptTerms'> & {
  receiptTerms: ReceiptTerms;
};

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
  number: whole().min(1, 'Tills are numbered from 1.').max(999).required('Type a number.'),
  placeId: whole().required('Choose a place.'),
});

export interface StaffMember {
  id: number;
  name: string;
  role: Role;
  active: boolean;
}

export const newTaxCategorySchema = object({ name: word('The name of the tax category', 60) });

/** A rate that begins at midnight of a day; zero ends the tax of that name. */
export const newTaxRateSchema = object({
  taxCategoryId: whole().required('Choose a tax category.'),
  name: word('The name of the tax', 60),
  rate: whole()
    .min(0, 'A rate is at least 0 %.')
    .max(1_000_000, 'A rate is at most 100 %.')
    .required('The rate is missing.'),
  from: day('Type the day as 2026-01-31.').required('From which day on?'),
});
export type NewTaxRate = InferType<typeof newTaxRateSchema>;

/** A discount that the shop has ready. */
export const newPresetSchema = object({
  name: word('The name, which is printed as the reason', 60),
  kind: string()
    .oneOf(['percent', 'amount'] as const)
    .required('A part or an amount?'),
  value: whole()
    .min(1, 'How much? Above zero, please.')
    .required('How much?')
    .when('kind', {
      is: 'percent',
      then: (rate) => rate.max(1_000_000, 'At most 100 %.'),
    }),
  needsCustomer: boolean().required(),
  groupId: whole().nullable().defined(),
});
export type NewPreset = InferType<typeof newPresetSchema>;

export const discountLimitSchema = object({
  role,
  rate: whole().min(0).max(1_000_000, 'At most 100 %.').required('Type a percentage.'),
});

/** What the shop has decided about returns and the end of the shift. */
const roleLimits = () =>
  object({
    cashier: whole().min(0).max(1e11).nullable().defined(),
    supervisor: whole().min(0).max(1e11).nullable().defined(),
    manager: whole().min(0).max(1e11).nullable().defined(),
  }).required();

export const afterSaleSchema = object({
  returnDays: whole().min(0).max(3650).required('How many days may goods come back?'),
  noReceiptDays: whole().min(1).max(3650).required('How many days are looked back?'),
  noReceiptWarning: whole().min(1).max(1000).required('After how many is warned?'),
  refundRest: string()
    .oneOf(['cash', 'store-credit'] as const)
    .required(),
  dropAbove: whole().min(0).max(1e11).required('0 suggests none.'),
  blindCount: boolean().required(),
  openAsLeft: boolean().default(false),
  countAsTotal: boolean().default(false),
  shortLimit: whole().min(0).max(1e11).required('From which shortage on?'),
  managersMail: string().trim().max(200).email('This is no mail address.').defined(),
  /** How much each role refunds alone; nothing is any amount. */
  refundLimits: roleLimits(),
});
export type AfterSaleSettings = InferType<typeof afterSaleSchema>;

/** How much stock each role puts right alone, by what it cost; nothing is any amount. */
export const stockLimitsSchema = object({ limits: roleLimits() });
export type RoleLimits = InferType<typeof stockLimitsSchema>['limits'];

/** What is asked of the list of changes. */
export const changesSchema = object({
  section: string()
    .oneOf(['', ...Object.keys(SETUP_SECTIONS)])
    .default(''),
  find: string().trim().max(100).default(''),
  before: whole().nullable().default(null),
});

/** Who changed what in Setup. */
export interface SetupChange extends SettingChange {
  id: number;
  at: string;
  who: string;
}

/** A tax category with its rates, as they follow each other. */
export interface TaxCategory {
  id: number;
  name: string;
  rates: DatedRate[];
}

/** Everything that the Setup page shows. */
export interface SetupFacts {
  /** The last change of Setup that these facts hold; whoever changes something says it. */
  seen: number;
  /** The shop's calendar day. */
  today: string;
  progress: SetupProgress;
  taxCategories: TaxCategory[];
  discountPresets: DiscountPreset[];
  discountLimits: Record<Role, Rate>;
  groups: { id: number; name: string }[];
  shop: ShopSettings;
  afterSale: AfterSaleSettings;
  stockLimits: RoleLimits;
  layaway: LayawaySettings;
  points: Programme;
  /** When and for whom there are more points, and the categories that they may be for. */
  pointsMore: PointsMore[];
  categories: { id: number; name: string }[];
  accounts: AccountRules;
  orders: OrderSettings;
  /** Where people order beside the shop. */
  channels: ChannelFacts[];
  /** To whom orders are passed on. */
  partners: Partner[];
  /** The last part of the address of the calendar of collections. */
  calendarKey: string;
  staff: StaffMember[];
  rights: Record<Role, Right[]>;
  places: OrderPlace[];
  tills: Welcome['tills'];
}

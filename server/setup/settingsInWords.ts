import { formatTimeOfDay } from '../../core/timeOfDay.ts';
import { createHash } from 'node:crypto';
import { pointsMoreWords, thousandWorth } from '../../core/people/loyalty.ts';
import type { SetupFacts } from '../../contract/setup.ts';
import type { TerminalRow } from '../../contract/cardPayments.ts';
import type { PaymentSettings } from '../../contract/payment.ts';
import { CODE_PAGES, type PrinterSetup } from '../../core/journal/printerSetup.ts';
import { RECEIPT_TERMS, type ReceiptTerm } from '../../core/journal/receipt.ts';
import { formatDay, localeWords } from '../../core/locale.ts';
import { formatMoney, type Money } from '../../core/money.ts';
import { currencyOf } from '../../core/payment/currency.ts';
import type { TenderType } from '../../core/payment/tenderType.ts';
import { ORDER_PAYS, type OrderPlace } from '../../core/promises/order.ts';
import { formatWeight } from '../../core/promises/shipping.ts';
import { INTERVALS } from '../../core/promises/plan.ts';
import { formatFactor, formatRate } from '../../core/rate.ts';
import type { SettingInWords } from '../../core/setup/changes.ts';
import type { SetupSection } from '../../core/setup/sections.ts';
import { RIGHTS, ROLES } from '../../core/staff/rights.ts';
import type { Reader } from '../db/database.ts';
import { printersOfTills } from '../journal/printing/printerStore.ts';
import { readPaymentSettings } from '../payment/settingsStore.ts';
import { listTerminals } from '../cardPayments/store.ts';
import { tenderTypes } from '../tenders/store.ts';
import { setupFacts } from './service.ts';
import { readShop } from '../shop/store.ts';

/** Tells two pictures apart in a few letters. */
const fingerprint = (picture: string) => createHash('sha256').update(picture).digest('hex').slice(0, 8);

/** Everything that Setup sets, each with the name that it has on the screen. */
export async function settingsInWords(sql: Reader, at: Date): Promise<SettingInWords[]> {
  const facts = await setupFacts(sql, at);
  const { digits } = currencyOf((await readShop(sql)).currency);
  const money = (amount: Money) => formatMoney(amount, digits);
  const printers = await printersOfTills(sql);
  return [
    ...shopWords(facts, money),
    ...receiptWords(facts),
    ...printers.map(({ number, setup }) =>
      setting('printers', `Printer of till ${number}`, printerWords(setup)),
    ),
    ...paymentWords(await readPaymentSettings(sql), await tenderTypes(sql), money),
    ...terminalWords(await listTerminals(sql), facts),
    ...facts.taxCategories.flatMap(({ name, rates }) => [
      setting('taxes', `Tax category ${name}`, 'there'),
      ...rates.map((rate) =>
        setting('taxes', `${rate.name} from ${formatDay(rate.from)}, ${name}`, formatRate(rate.rate)),
      ),
    ]),
    ...facts.discountPresets.map(({ name, size, needsCustomer, group }) =>
      setting(
        'discounts',
        `Discount ${name}`,
        [
          size.kind === 'percent' ? formatRate(size.rate) : money(size.amount),
          ...(needsCustomer ? ['for known customers'] : []),
          ...(group ? [`for ${group}`] : []),
        ].join(', '),
      ),
    ),
    ...ROLES.map((role) => setting('discounts', `Up to, ${role}`, formatRate(facts.discountLimits[role]))),
    ...afterSaleWords(facts, money),
    ...ROLES.map((role) =>
      setting('stock', `Put right up to, ${role}`, anyOr(facts.stockLimits[role], money)),
    ),
    ...layawayWords(facts, money),
    ...pointsSettings(facts, money),
    ...accountSettings(facts, money),
    ...orderWords(facts, money),
    ...channelWords(facts),
    ...facts.partners.flatMap(partnerWords),
    ...facts.staff.map(({ name, role, active }) =>
      setting('staff', name, active ? role : `${role}, cannot sign in`),
    ),
    ...ROLES.flatMap((role) =>
      facts.rights[role].map((right) => setting('rights', `${role}: ${RIGHTS[right]}`, 'yes')),
    ),
    ...facts.places.flatMap(placeWords),
    ...facts.tills.map(({ number, place }) => setting('places', `Till ${number}`, place)),
  ];
}

const setting = (section: SetupSection, what: string, value: string): SettingInWords => ({
  section,
  what,
  value,
});
const yesNo = (is: boolean) => (is ? 'yes' : 'no');

function shopWords({ shop }: SetupFacts, money: (amount: Money) => string): SettingInWords[] {
  return [
    setting('shop', 'Name', shop.name),
    setting('shop', 'Usual float', money(shop.openingFloat)),
    setting('shop', 'Open prices up to, without approval', money(shop.openPriceLimit)),
    setting('shop', 'Lock a till after so many minutes', String(shop.lockMinutes)),
    setting(
      'shop',
      'Tax is rounded',
      shop.taxRounding === 'sale' ? 'once for each rate of a sale' : 'on every line',
    ),
    setting('shop', 'Codes with a price or weight inside', shop.codeLayouts.join(', ')),
    setting('shop', 'Time zone', shop.timezone),
    setting('shop', 'The day ends so many hours after midnight', String(shop.dayEnds)),
    setting('shop', 'Mail about the day, after the last drawer is closed', shop.summaryMail),
    setting('shop', 'Amounts, dates and times are written', localeWords(shop.locale)),
  ];
}

function receiptWords({ shop }: SetupFacts): SettingInWords[] {
  return [
    setting('receipts', 'At the top of receipts', shop.receiptWords.join(' · ')),
    setting('receipts', 'At the end of receipts', shop.receiptThanks),
    setting('receipts', 'Logo', shop.receiptLogo && `picture ${fingerprint(shop.receiptLogo)}`),
    setting('receipts', 'Amounts are written', localeWords(shop.receiptLocale)),
    setting('receipts', 'Mail comes from', shop.mailFrom),
    ...(Object.keys(RECEIPT_TERMS) as ReceiptTerm[]).map((term) =>
      setting('receipts', `Word for “${RECEIPT_TERMS[term]}”`, shop.receiptTerms[term] ?? ''),
    ),
  ];
}

function printerWords({ kind, host, port, columns, codePage, cutter, pulse, answers }: PrinterSetup): string {
  return [
    kind === 'network' ? `${host}:${port}` : 'stand-in',
    `${columns} columns`,
    CODE_PAGES[codePage],
    ...(cutter ? ['cutter'] : []),
    ...(pulse ? ['cash drawer'] : []),
    ...(answers ? [] : ['says nothing back']),
  ].join(', ');
}

function paymentWords(
  settings: PaymentSettings,
  types: readonly TenderType[],
  money: (amount: Money) => string,
): SettingInWords[] {
  return [
    ...types.map((type) =>
      setting(
        'payment',
        `Means of payment ${type.name}`,
        [
          type.active ? 'taken' : 'not taken',
          ...(type.reference ? [`asks for ${type.reference}`] : []),
          ...(type.counted ? ['counted at close'] : []),
          ...(type.opensDrawer ? ['opens the drawer'] : []),
          ...(type.foreign ? [`${type.foreign.currency} at ${formatFactor(type.foreign.rate)}`] : []),
        ].join(', '),
      ),
    ),
    setting('payment', 'Order', types.map(({ name }) => name).join(', ')),
    setting('payment', 'Round up for a fund', settings.roundUpStep > 0 ? money(settings.roundUpStep) : ''),
    setting('payment', 'For whom', settings.fund),
    setting('payment', 'Tips on the terminal', settings.tipRates.map(formatRate).join(', ')),
    setting('payment', 'Cash is rounded to', settings.cashRounding > 0 ? money(settings.cashRounding) : ''),
    setting('payment', 'New gift cards expire after so many months', String(settings.giftCardMonths ?? '')),
    setting('payment', 'Dormant after so many months without use', String(settings.dormantMonths ?? '')),
  ];
}

function terminalWords(terminals: readonly TerminalRow[], { tills }: SetupFacts): SettingInWords[] {
  return terminals.map(({ name, tillIds }) =>
    setting(
      'terminals',
      `Terminal ${name}`,
      tills
        .filter(({ id }) => tillIds.includes(id))
        .map(({ number }) => `till ${number}`)
        .join(', ') || 'at no till',
    ),
  );
}

function layawayWords(
  { layaway, taxCategories }: SetupFacts,
  money: (amount: Money) => string,
): SettingInWords[] {
  return [
    setting('layaway', 'Least deposit', formatRate(layaway.leastDeposit)),
    setting('layaway', 'Parts', String(layaway.parts)),
    setting('layaway', 'A part is due', INTERVALS[layaway.interval]),
    setting('layaway', 'Fee for cancelling', money(layaway.fee)),
    setting(
      'layaway',
      'The fee is taxed as',
      taxCategories.find(({ id }) => id === layaway.feeTaxCategoryId)?.name ?? '',
    ),
    setting('layaway', 'The lower price counts at the handover', layaway.lower ? 'yes' : 'no'),
    setting('layaway', 'Terms on the paper of a layaway', layaway.words),
    setting('layaway', 'Words of your own for how far one is', layaway.stages.join(', ')),
  ];
}

function pointsSettings(
  { points, pointsMore }: SetupFacts,
  money: (amount: Money) => string,
): SettingInWords[] {
  return [
    setting('points', 'The shop gives points', points.on ? 'yes' : 'no'),
    setting('points', 'They are called', points.word),
    setting('points', 'So many points', String(points.given)),
    setting('points', 'For each', money(points.per)),
    setting('points', 'They end after so many months', points.months === 0 ? 'never' : String(points.months)),
    setting('points', 'What comes back late can be used for days', String(points.backDays)),
    setting('points', 'Who joins within days gets the points of a sale', String(points.joinDays)),
    setting('points', 'A thousand points are worth in the books', money(thousandWorth(points.worth))),
    setting('points', 'Of them are expected to be used', formatRate(points.use)),
    setting(
      'points',
      'Points of one step of money off',
      points.offPoints === 0 ? 'none' : String(points.offPoints),
    ),
    setting('points', 'Taken off for each step', money(points.offAmount)),
    setting('points', 'Of the goods, points pay at most', formatRate(points.offMost)),
    ...pointsMore.map((more) => setting('points', `More points: ${more.name}`, pointsMoreWords(more))),
  ];
}

function accountSettings({ accounts }: SetupFacts, money: (amount: Money) => string): SettingInWords[] {
  const { limit, daysToPay, sheet, howToPay, reminders, byItself } = accounts;
  return [
    setting('accounts', 'Limit of a new account', money(limit)),
    setting('accounts', 'Days to pay', String(daysToPay)),
    setting('accounts', 'Sheets that statements are written on', sheet === 'A4' ? 'A4' : 'Letter'),
    setting('accounts', 'How to pay', howToPay),
    setting('accounts', 'Days overdue after which reminders go out', reminders.join(', ')),
    setting('accounts', 'Reminders go out every night', byItself ? 'yes' : 'no'),
  ];
}

function placeWords({ name, kind, street, postcode, city, at, hours }: OrderPlace): SettingInWords[] {
  const open = hours.map((day) =>
    day ? `${formatTimeOfDay(day.from)}–${formatTimeOfDay(day.to)}` : 'closed',
  );
  return [
    setting('places', `Place ${name}`, kind === 'shop' ? 'sells' : 'stock only'),
    setting('places', `${name}: address`, [street, postcode, city].filter(Boolean).join(' ')),
    setting('places', `${name}: latitude and longitude`, at ? `${at.latitude}, ${at.longitude}` : ''),
    setting('places', `${name}: open`, open.length === 0 ? 'always' : open.join(', ')),
  ];
}

function orderWords(
  { orders, taxCategories, calendarKey }: SetupFacts,
  money: (amount: Money) => string,
): SettingInWords[] {
  return [
    setting('orders', 'Paid when an order is placed', ORDER_PAYS[orders.pay]),
    setting('orders', 'Least deposit', formatRate(orders.leastDeposit)),
    setting('orders', 'Goods are ready after minutes', String(orders.leadMinutes)),
    setting('orders', 'An item usually weighs', formatWeight(orders.usualWeight)),
    setting(
      'orders',
      'Shipping is taxed as',
      taxCategories.find(({ id }) => id === orders.shippingTaxCategoryId)?.name ?? '',
    ),
    ...orders.zones.map(({ name, postcodes, steps }) =>
      setting(
        'orders',
        `Shipping to ${name}`,
        [
          postcodes.length === 0 ? 'everywhere else' : postcodes.join(', '),
          ...steps.map(({ upTo, fee }) => `up to ${formatWeight(upTo)} ${money(fee)}`),
        ].join('; '),
      ),
    ),
    // Only its end: whoever knows all of it may read the calendar.
    setting('orders', 'Address of the calendar', `…${calendarKey.slice(-4)}`),
  ];
}

function partnerWords(partner: SetupFacts['partners'][number]): SettingInWords[] {
  const { code, name, city, phone, postcodes, timezone, cutOffs, takes, rate, active } = partner;
  return [
    setting('partners', `Partner ${code}`, name),
    setting('partners', `${code}: town and telephone`, [city, phone].filter(Boolean).join(', ')),
    setting('partners', `${code}: delivers to`, postcodes.length === 0 ? 'everywhere' : postcodes.join(', ')),
    setting(
      'partners',
      `${code}: takes orders until`,
      cutOffs.map((time) => (time === null ? 'closed' : formatTimeOfDay(time))).join(', '),
    ),
    setting('partners', `${code}: time zone`, timezone),
    setting('partners', `${code}: takes`, takes),
    setting('partners', `${code}: its part`, formatRate(rate)),
    setting('partners', `${code}: is asked`, yesNo(active)),
  ];
}

function channelWords({ channels }: SetupFacts): SettingInWords[] {
  return channels.flatMap(({ name, prefix, pay, leastDeposit, active, keyEnd, address }) => [
    setting('channels', `${name}: its numbers begin with`, prefix),
    setting('channels', `${name}: paid first`, ORDER_PAYS[pay]),
    setting('channels', `${name}: least deposit`, formatRate(leastDeposit)),
    setting('channels', `${name}: takes orders`, yesNo(active)),
    setting('channels', `${name}: its key ends with`, keyEnd),
    setting('channels', `${name}: is told at`, address),
  ]);
}

const anyOr = (limit: Money | null, money: (amount: Money) => string): string =>
  limit === null ? 'any' : money(limit);

function afterSaleWords({ afterSale }: SetupFacts, money: (amount: Money) => string): SettingInWords[] {
  return [
    setting('returns', 'Goods come back within days', String(afterSale.returnDays)),
    setting(
      'returns',
      'What was not paid electronically goes back',
      afterSale.refundRest === 'cash' ? 'in cash' : 'as store credit',
    ),
    setting('returns', 'Without a receipt: lowest price of days', String(afterSale.noReceiptDays)),
    setting('returns', 'Warn from so many without a receipt', String(afterSale.noReceiptWarning)),
    ...ROLES.map((role) =>
      setting('returns', `Refunds up to, ${role}`, anyOr(afterSale.refundLimits[role], money)),
    ),
    setting('returns', 'Suggest a safe drop above', money(afterSale.dropAbove)),
    setting('returns', 'Managers hear of a shortage above', money(afterSale.shortLimit)),
    setting('returns', 'Managers’ mail', afterSale.managersMail),
    setting('returns', 'Count the drawer without seeing what is expected', yesNo(afterSale.blindCount)),
    setting(
      'returns',
      'A drawer may be opened as it was left, without counting',
      yesNo(afterSale.openAsLeft),
    ),
    setting('returns', 'The drawer may be counted as one total at the end', yesNo(afterSale.countAsTotal)),
  ];
}

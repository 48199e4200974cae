import type { NewPointsMore } from '../../contract/points.ts';
import type { AccountRules } from '../../contract/accounts.ts';
import type { Programme } from '../../core/people/loyalty.ts';
import type { ChannelSettlement, ChannelSettings, NewChannel } from '../../contract/channels.ts';
import type { PartnerMonth, PartnerSettings } from '../../contract/relay.ts';
import type { OrderSettings, PlaceDetails } from '../../contract/orders.ts';
import type { LayawaySettings } from '../../contract/promises.ts';
import { defineStore } from 'pinia';
import type { TillPrinter } from '../../contract/printer.ts';
import type {
  AfterSaleSettings,
  RoleLimits,
  FirstRun,
  NewPreset,
  NewTaxRate,
  SetupChange,
  SetupFacts,
  ShopSettings,
  StaffMember,
} from '../../contract/setup.ts';
import type { PrinterSetup } from '../../core/journal/printerSetup.ts';
import type { Rate } from '../../core/rate.ts';
import type { Right, Role } from '../../core/staff/rights.ts';
import { changeSetup, read, write } from '../net/api.ts';
import { inTurn } from '../net/inTurn.ts';
import { shown } from '../net/shown.ts';
import { lookFirst } from '../notices/follow.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** The shop as its manager sets it up. */
export const useSetupStore = defineStore('setup', () => {
  const session = useSessionStore();
  const till = useTillStore();
  const [facts, showFacts] = shown<SetupFacts | null>(null);
  const [printers, showPrinters] = shown<TillPrinter[]>([]);

  async function load(): Promise<void> {
    await showFacts(read<SetupFacts>('/setup/facts'));
  }

  async function loadPrinters(): Promise<void> {
    await showPrinters(read<TillPrinter[]>('/printer/tills')).catch(() => {});
  }

  async function then(work: Promise<unknown>): Promise<void> {
    await work.catch(lookFirst(load));
    session.welcome = null;
    await Promise.all([load(), till.load(), session.find()]);
  }

  type Change = [method: 'POST' | 'PUT' | 'DELETE', path: string, body: unknown];
  const turn = inTurn();
  /** Changes something that stands as the page shows it. */
  const change = (...what: Change) => turn(() => then(changeSetup(facts.value?.seen ?? 0, ...what)));
  /** Keeps a form. @param seen the last change that its person has seen */
  const keep = (seen: number, ...what: Change) => then(changeSetup(seen, ...what));

  return {
    facts,
    load,
    /** A new shop: nobody is signed in yet, and nothing else can be read. */
    async setUpShop(entry: FirstRun): Promise<void> {
      await write('POST', '/setup/shop', entry);
      session.welcome = null;
    },
    saveShop: (shop: ShopSettings, seen: number) => keep(seen, 'PUT', '/setup/settings', shop),
    addStaff: (person: { name: string; role: Role; pin: string }) => change('POST', '/setup/staff', person),
    changeStaff: ({ id, ...person }: StaffMember & { pin?: string }) =>
      change('PUT', `/setup/staff/${id}`, person),
    signOutEverywhere: (staffId: number) => then(write('POST', '/staff/sign-out-everywhere', { staffId })),
    setRight: (role: Role, right: Right, granted: boolean) =>
      change('PUT', '/setup/rights', { role, right, granted }),
    addTaxCategory: (name: string) => change('POST', '/setup/tax-categories', { name }),
    addTaxRate: (rate: NewTaxRate) => change('POST', '/setup/tax-rates', rate),
    dropTaxRate: (id: number) => change('DELETE', `/setup/tax-rates/${id}`, {}),
    addPreset: (preset: NewPreset) => change('POST', '/setup/discount-presets', preset),
    endPreset: (id: number) => change('DELETE', `/setup/discount-presets/${id}`, {}),
    setDiscountLimit: (role: Role, rate: Rate) => change('PUT', '/setup/discount-limits', { role, rate }),
    saveLayaway: (settings: LayawaySettings, seen: number) => keep(seen, 'PUT', '/setup/layaway', settings),
    savePoints: (programme: Programme, seen: number) => keep(seen, 'PUT', '/setup/points', programme),
    addPointsMore: (more: NewPointsMore) => change('POST', '/setup/points/more', more),
    endPointsMore: (id: number) => change('DELETE', `/setup/points/more/${id}`, {}),
    saveAccounts: (rules: AccountRules, seen: number) => keep(seen, 'PUT', '/setup/accounts', rules),
    saveOrders: (settings: OrderSettings, seen: number) => keep(seen, 'PUT', '/setup/orders', settings),
    addChannel: (channel: NewChannel) => change('POST', '/setup/channels', channel),
    saveChannel: (id: number, channel: ChannelSettings, seen: number) =>
      keep(seen, 'PUT', `/setup/channels/${id}`, channel),
    renewChannelKey: (id: number, key: string) => change('PUT', `/setup/channels/${id}/key`, { key }),
    settleChannel: (id: number, paid: ChannelSettlement) =>
      change('POST', `/setup/channels/${id}/settled`, paid),
    savePartner: (id: number | null, partner: PartnerSettings, seen: number) =>
      id === null
        ? keep(seen, 'POST', '/setup/partners', partner)
        : keep(seen, 'PUT', `/setup/partners/${id}`, partner),
    partnerMonths: () => read<PartnerMonth[]>('/setup/partners/months'),
    settlePartner: (month: { partnerId: number; month: string }) =>
      change('POST', '/setup/partners/settled', month),
    renewCalendar: () => change('POST', '/setup/calendar-key', {}),
    savePlace: (id: number, details: PlaceDetails, seen: number) =>
      keep(seen, 'PUT', `/setup/places/${id}`, details),
    saveStockLimits: (limits: RoleLimits, seen: number) => keep(seen, 'PUT', '/setup/stock', { limits }),
    saveAfterSale: (settings: AfterSaleSettings, seen: number) =>
      keep(seen, 'PUT', '/setup/after-sale', settings),
    addPlace: (place: { name: string; kind: 'shop' | 'stock' }) => change('POST', '/setup/places', place),
    addTill: (one: { number: number; placeId: number }) => change('POST', '/setup/tills', one),
    printers,
    loadPrinters,
    /** However it ends, how it stands then is there to be looked at. */
    choosePrinter: (tillId: number, printer: PrinterSetup, seen: number) =>
      changeSetup(seen, 'PUT', `/printer/tills/${tillId}`, printer).finally(loadPrinters),
    testPrinter: (tillId: number) => write('POST', `/printer/tills/${tillId}/test`, {}),
    /** Who changed what, newest first. @param before the last one that is shown */
    changes: (section: string, find: string, before?: number) =>
      read<SetupChange[]>(
        `/setup/changes?${new URLSearchParams({ section, find, ...(before === undefined ? {} : { before: String(before) }) }).toString()}`,
      ),
  };
});

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
import { read, write } from '../net/api.ts';
import { shown } from '../net/shown.ts';
import { useSessionStore } from '../staff/sessionStore.ts';
import { useTillStore } from '../shop/tillStore.ts';

/** The shop as its manager sets it up. */
export const useSetupStore = defineStore('setup', () => {
  const session = useSessionStore();
  const till = useTillStore();
  const [facts, showFacts] = shown<SetupFacts | null>(null);

  async function load(): Promise<void> {
    await showFacts(read<SetupFacts>('/setup/facts'));
  }

  async function then(work: Promise<unknown>): Promise<void> {
    await work;
    session.welcome = null;
    await Promise.all([load(), till.load(), session.find()]);
  }

  return {
    facts,
    load,
    /** A new shop: nobody is signed in yet, and nothing else can be read. */
    async setUpShop(entry: FirstRun): Promise<void> {
      await write('POST', '/setup/shop', entry);
      session.welcome = null;
    },
    saveShop: (shop: ShopSettings) => then(write('PUT', '/setup/settings', shop)),
    addStaff: (person: { name: string; role: Role; pin: string }) =>
      then(write('POST', '/setup/staff', person)),
    changeStaff: ({ id, ...person }: StaffMember & { pin?: string }) =>
      then(write('PUT', `/setup/staff/${id}`, person)),
    signOutEverywhere: (staffId: number) => then(write('POST', '/staff/sign-out-everywhere', { staffId })),
    setRight: (role: Role, right: Right, granted: boolean) =>
      then(write('PUT', '/setup/rights', { role, right, granted })),
    addTaxCategory: (name: string) => then(write('POST', '/setup/tax-categories', { name })),
    addTaxRate: (rate: NewTaxRate) => then(write('POST', '/setup/tax-rates', rate)),
    dropTaxRate: (id: number) => then(write('DELETE', `/setup/tax-rates/${id}`, {})),
    addPreset: (preset: NewPreset) => then(write('POST', '/setup/discount-presets', preset)),
    endPreset: (id: number) => then(write('DELETE', `/setup/discount-presets/${id}`, {})),
    setDiscountLimit: (role: Role, rate: Rate) =>
      then(write('PUT', '/setup/discount-limits', { role, rate })),
    saveLayaway: (settings: LayawaySettings) => then(write('PUT', '/setup/layaway', settings)),
    savePoints: (programme: Programme) => then(write('PUT', '/setup/points', programme)),
    addPointsMore: (more: NewPointsMore) => then(write('POST', '/setup/points/more', more)),
    endPointsMore: (id: number) => then(write('DELETE', `/setup/points/more/${id}`, {})),
    saveAccounts: (rules: AccountRules) => then(write('PUT', '/setup/accounts', rules)),
    saveOrders: (settings: OrderSettings) => then(write('PUT', '/setup/orders', settings)),
    addChannel: (channel: NewChannel) => then(write('POST', '/setup/channels', channel)),
    saveChannel: (id: number, channel: ChannelSettings) =>
      then(write('PUT', `/setup/channels/${id}`, channel)),
    renewChannelKey: (id: number, key: string) => then(write('PUT', `/setup/channels/${id}/key`, { key })),
    settleChannel: (id: number, paid: ChannelSettlement) =>
      then(write('POST', `/setup/channels/${id}/settled`, paid)),
    savePartner: (id: number | null, partner: PartnerSettings) =>
      then(
        id === null
          ? write('POST', '/setup/partners', partner)
          : write('PUT', `/setup/partners/${id}`, partner),
      ),
    partnerMonths: () => read<PartnerMonth[]>('/setup/partners/months'),
    settlePartner: (month: { partnerId: number; month: string }) =>
      write('POST', '/setup/partners/settled', month),
    renewCalendar: () => then(write('POST', '/setup/calendar-key', {})),
    savePlace: (id: number, details: PlaceDetails) => then(write('PUT', `/setup/places/${id}`, details)),
    saveStockLimits: (limits: RoleLimits) => then(write('PUT', '/setup/stock', { limits })),
    saveAfterSale: (settings: AfterSaleSettings) => then(write('PUT', '/setup/after-sale', settings)),
    addPlace: (place: { name: string; kind: 'shop' | 'stock' }) =>
      then(write('POST', '/setup/places', place)),
    addTill: (one: { number: number; placeId: number }) => then(write('POST', '/setup/tills', one)),
    printers: () => read<TillPrinter[]>('/printer/tills'),
    choosePrinter: (tillId: number, printer: PrinterSetup) =>
      write('PUT', `/printer/tills/${tillId}`, printer),
    testPrinter: (tillId: number) => write('POST', `/printer/tills/${tillId}/test`, {}),
    /** Who changed what, newest first. @param before the last one that is shown */
    changes: (section: string, find: string, before?: number) =>
      read<SetupChange[]>(
        `/setup/changes?${new URLSearchParams({ section, find, ...(before === undefined ? {} : { before: String(before) }) }).toString()}`,
      ),
  };
});

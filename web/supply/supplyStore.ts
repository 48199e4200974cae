import { defineStore } from 'pinia';
import { reactive, ref } from 'vue';
import type { Asked } from '../../contract/goods.ts';
import type {
  ChangedOrder,
  DeliveryPage,
  OrderPage,
  OrderableItem,
  OrdersPage,
  OrdersQuery,
  SupplierPage,
  SupplierRow,
  WantedDelivery,
  WantedSupplierReturn,
  WantedInvoice,
  WantedSupplier,
} from '../../contract/supply.ts';
import { counted } from '../../core/locale.ts';
import { read, write } from '../net/api.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';

/** Suppliers, what is ordered from them, and what came. Each step throws ApiProblem. */
export const useSupplyStore = defineStore('supply', () => {
  const [suppliers, showSuppliers] = shown<SupplierRow[] | null>(null);
  const [supplier, showSupplier, putSupplier] = shown<SupplierPage | null>(null);
  const [orders, showOrders] = shown<OrdersPage | null>(null);
  const [order, showOrder, putOrder] = shown<OrderPage | null>(null);
  const [delivery, showDelivery, putDelivery] = shown<DeliveryPage | null>(null);

  async function loadSuppliers(find: string): Promise<void> {
    await showSuppliers(read<SupplierRow[]>(`/supply/suppliers?find=${encodeURIComponent(find)}`));
  }
  async function loadSupplier(id: number): Promise<void> {
    if (supplier.value?.id !== id) putSupplier(null);
    await showSupplier(read<SupplierPage>(`/supply/suppliers/${id}`));
  }
  /** Reads a supplier again, as long as none other is looked at. */
  async function supplierAgain(id: number): Promise<void> {
    if (supplier.value?.id === id) await loadSupplier(id);
  }
  /** Which orders or deliveries are listed, and which page of them. */
  const listed = reactive({ show: 'open' as OrdersQuery['show'], find: '' });
  const listedPage = ref(0);
  async function loadOrders(): Promise<void> {
    const asked = new URLSearchParams({ ...listed, page: String(listedPage.value) });
    await showOrders(read<OrdersPage>(`/supply/orders?${asked.toString()}`));
  }
  async function loadOrder(id: number): Promise<void> {
    if (order.value?.id !== id) putOrder(null);
    await showOrder(read<OrderPage>(`/supply/orders/${id}`));
  }
  /** Reads an order again, as long as none other is looked at. */
  async function orderAgain(id: number): Promise<void> {
    if (order.value?.id === id) await loadOrder(id);
  }
  async function loadDelivery(id: number): Promise<void> {
    if (delivery.value?.id !== id) putDelivery(null);
    await showDelivery(read<DeliveryPage>(`/supply/deliveries/${id}`));
  }

  const addSupplier = async (wanted: WantedSupplier): Promise<number> =>
    (await write<{ id: number }>('POST', '/supply/suppliers', wanted)).id;
  async function saveSupplier({ id, version }: SupplierPage, wanted: WantedSupplier): Promise<void> {
    await showSupplier(
      write<SupplierPage>('PUT', `/supply/suppliers/${id}`, {
        supplier: wanted,
        version,
      }),
    );
  }

  /** Begins an order, and says where more is suggested than it has room for. @returns its id @throws ApiProblem */
  async function beginOrder(wanted: {
    supplierId: number;
    placeId: number;
    suggested: boolean;
    cover: number;
  }): Promise<number> {
    const { id, left } = await write<{ id: number; left: number }>('POST', '/supply/orders', wanted);
    if (left > 0)
      useNoticeStore().say(
        `${counted(left, 'more item')} should be ordered: begin another one when this is sent.`,
      );
    return id;
  }
  async function saveOrder(id: number, wanted: ChangedOrder): Promise<void> {
    await showOrder(write<OrderPage>('PUT', `/supply/orders/${id}`, wanted));
  }
  async function sendOrder({ id, version }: OrderPage, mail: boolean): Promise<void> {
    await showOrder(write<OrderPage>('POST', `/supply/orders/${id}/sent`, { version, mail }));
  }
  /** @returns whether it was a draft, which is gone */
  async function closeOrder({ id, version }: OrderPage): Promise<boolean> {
    const { gone } = await write<{ gone: boolean }>('POST', `/supply/orders/${id}/closed`, { version });
    if (!gone) await orderAgain(id);
    return gone;
  }
  /** Goods that can be put on an order. */
  const findItems = (id: number, asked: Asked) =>
    read<OrderableItem[]>(`/supply/orders/${id}/items?${new URLSearchParams(asked).toString()}`);
  async function sendBack(id: number, wanted: WantedSupplierReturn): Promise<void> {
    await showDelivery(write<DeliveryPage>('POST', `/supply/deliveries/${id}/returns`, wanted));
  }
  const takeIn = (id: number, wanted: WantedDelivery) =>
    write<{ id: number; number: number }>('POST', `/supply/orders/${id}/deliveries`, wanted);
  async function noteInvoice(id: number, wanted: WantedInvoice): Promise<void> {
    await showDelivery(write<DeliveryPage>('POST', `/supply/deliveries/${id}/invoice`, wanted));
  }

  /** Calls back when anything of it has changed elsewhere. */
  const follow = (again: () => Promise<void>) => lookAgain(['supply-changed'], again);

  return {
    suppliers,
    supplier,
    orders,
    order,
    delivery,
    sendBack,
    loadSuppliers,
    loadSupplier,
    supplierAgain,
    listed,
    listedPage,
    loadOrders,
    loadOrder,
    orderAgain,
    loadDelivery,
    addSupplier,
    saveSupplier,
    beginOrder,
    saveOrder,
    sendOrder,
    closeOrder,
    findItems,
    takeIn,
    noteInvoice,
    follow,
  };
});

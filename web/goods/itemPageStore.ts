import { defineStore } from 'pinia';
import type {
  Asked,
  GoodsPage,
  GoodsRow,
  ItemPage,
  NewFamily,
  StockByHand,
  WantedItem,
  WantedPart,
} from '../../contract/goods.ts';
import { read, write } from '../net/api.ts';
import { lookAgain } from '../net/lookAgain.ts';
import { shown } from '../net/shown.ts';

/** The page of one item, and what can be done with it there. */
export const useItemPageStore = defineStore('itemPage', () => {
  const [page, showPage, putPage] = shown<ItemPage | null>(null);

  /** @throws ApiProblem `no-item` */
  async function load(id: number): Promise<void> {
    if (page.value?.id !== id) putPage(null);
    await showPage(read<ItemPage>(`/goods/items/${id}/page`));
  }

  /** Reads an item again, as long as nothing else is looked at. */
  async function again(id: number): Promise<void> {
    if (page.value?.id === id) await load(id);
  }

  const at = ({ id }: Pick<ItemPage, 'id'>) => `/goods/items/${id}`;
  async function save(looked: ItemPage, record: WantedItem): Promise<void> {
    await showPage(write<ItemPage>('PUT', at(looked), { record, version: looked.version }));
  }
  async function addPrice(looked: ItemPage, from: string, price: number): Promise<void> {
    await showPage(write<ItemPage>('POST', `${at(looked)}/prices`, { from, price }));
  }
  async function dropPrice(looked: ItemPage, from: string): Promise<void> {
    await showPage(write<ItemPage>('DELETE', `${at(looked)}/prices/${from}`));
  }
  async function moveStock(looked: ItemPage, move: StockByHand): Promise<void> {
    await showPage(write<ItemPage>('POST', `${at(looked)}/moves`, move));
  }

  async function addVariants(looked: ItemPage, variants: NewFamily['variants'], own: boolean): Promise<void> {
    await showPage(
      write<ItemPage>('POST', `/goods/families/${looked.id}/variants`, {
        variants,
        ownCodes: own,
      }),
    );
  }
  async function saveParts({ id, version }: ItemPage, parts: WantedPart[]): Promise<void> {
    await showPage(write<ItemPage>('PUT', `/goods/bundles/${id}/parts`, { parts, version }));
  }

  async function addPicture({ id }: ItemPage, content: string, instead: number | null): Promise<void> {
    await showPage(write<ItemPage>('POST', `/goods/items/${id}/pictures`, { content, instead }));
  }
  async function putPictures({ id, pictures: seen }: ItemPage, pictures: number[]): Promise<void> {
    await showPage(write<ItemPage>('PUT', `/goods/items/${id}/pictures`, { pictures, seen }));
  }

  /** Adds a family with its variants. @returns its id @throws ApiProblem */
  const addFamily = async (family: NewFamily): Promise<number> =>
    (await write<{ id: number }>('POST', '/goods/families', family)).id;
  const addBundle = async (record: WantedItem, parts: WantedPart[]): Promise<number> =>
    (await write<{ id: number }>('POST', '/goods/bundles', { record, parts })).id;
  /** Goods that are sold and can be a part of something. */
  const findGoods = async (asked: Asked): Promise<GoodsRow[]> =>
    (await read<GoodsPage>(`/goods/list?${new URLSearchParams(asked).toString()}`)).rows
      .filter(({ kind }) => kind === 'goods')
      .slice(0, 8);

  /** Adds an item. @param stock on hand where the till stands @returns its id @throws ApiProblem */
  const add = async (record: WantedItem, stock: number): Promise<number> =>
    (await write<{ id: number }>('POST', '/goods/items/new', { record, stock })).id;
  /** A code of the shop's own that means nothing yet. */
  const ownCode = async (): Promise<string> => (await read<{ code: string }>('/goods/own-code')).code;
  /** The item that a code means, if any does. */
  const idOfCode = async (code: string): Promise<number | null> =>
    (await read<{ id: number | null }>(`/goods/codes/${encodeURIComponent(code)}`)).id;

  const follow = (): (() => void) =>
    lookAgain(['catalogue-changed', 'stock-changed'], async () => {
      if (page.value) await load(page.value.id);
    });

  return {
    page,
    load,
    again,
    save,
    addPrice,
    dropPrice,
    moveStock,
    addVariants,
    saveParts,
    addPicture,
    putPictures,
    addFamily,
    addBundle,
    findGoods,
    add,
    ownCode,
    idOfCode,
    follow,
  };
});

/** How the list of goods can be sorted, in the words of the screen. */
export const GOODS_SORTS = {
  name: 'Name',
  number: 'Number',
  price: 'Price',
  stock: 'Least stock here',
  added: 'Newest',
} as const;

export type GoodsSort = keyof typeof GOODS_SORTS;

/** How many items stand on one page of the list. */
export const GOODS_PAGE = 50;

/** The parts of Setup, in the order in which they are listed, by the last word of their address. */
export const SETUP_SECTIONS = {
  shop: 'Shop',
  receipts: 'Receipts',
  printers: 'Receipt printers',
  payment: 'Means of payment',
  terminals: 'Card terminals',
  taxes: 'Taxes',
  discounts: 'Discounts',
  returns: 'Returns and the end of the shift',
  stock: 'Stock',
  layaway: 'Layaways',
  orders: 'Orders',
  channels: 'Orders from elsewhere',
  partners: 'Partners',
  points: 'Points',
  accounts: 'House accounts',
  staff: 'Staff',
  rights: 'Rights',
  places: 'Places and tills',
} as const;

export type SetupSection = keyof typeof SETUP_SECTIONS;

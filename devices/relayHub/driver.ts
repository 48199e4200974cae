/** An order as the hub takes it to a partner. */
export interface HubOrder {
  /** The same reference again is the same order. */
  reference: string;
  /** The shop's number, e.g. `R-0001`. */
  number: string;
  from: string;
  /** The code of the partner. */
  partner: string;
  /** `YYYY-MM-DD` */
  day: string;
  recipient: string;
  street: string;
  postcode: string;
  city: string;
  phone: string;
  wishes: string;
  card: string;
  goods: string;
  /** What the partner gets for it, in the smallest unit of the currency. */
  part: number;
}

export type PartnerSaying = 'accepted' | 'refused' | 'question' | 'note' | 'delivered' | 'withdrawn';
export type ShopSaying = 'reply' | 'withdrawn' | 'accepted' | 'refused' | 'delivered' | 'note';

/** An order that a partner passes to the shop. */
export interface HubIncoming extends Omit<HubOrder, 'from'> {
  /** What the partner calls it, e.g. `CORRAN-3`. */
  number: string;
  /** The code of the partner who passes it on. */
  partner: string;
  /** What the shop gets for it, in the smallest unit of the currency. */
  part: number;
}

/** Something that a partner has said. */
export interface HubMessage {
  id: string;
  /** Of the order that it is about. */
  reference: string;
  kind: PartnerSaying;
  words: string;
}

/** What is said to a partner. */
export interface HubReply {
  id: string;
  reference: string;
  kind: ShopSaying;
  words: string;
}

/** A hub between shops. Whatever is asked twice is done once. */
export interface RelayHub {
  /** @throws Error in words when the hub cannot be asked now */
  send(order: HubOrder): Promise<void>;
  /** @throws Error in words when the hub cannot be asked now */
  say(reply: HubReply): Promise<void>;
  /** Orders that partners pass to the shop and that nobody has taken yet, in order. */
  orders(): Promise<HubIncoming[]>;
  /** An order is kept here now, or was answered. */
  orderTaken(reference: string): Promise<void>;
  /** What partners have said and nobody has taken yet, in order. */
  messages(): Promise<HubMessage[]>;
  /** A message is kept here now. */
  taken(id: string): Promise<void>;
  /** Hears when there is something new. */
  hear(listener: () => void): void;
}

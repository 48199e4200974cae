/** A parcel as the carrier is asked to take it. */
export interface ParcelRequest {
  /** The same reference again is the same parcel. */
  reference: string;
  to: { name: string; street: string; postcode: string; city: string; phone: string };
  /** Grams. */
  weight: number;
}

/** A carrier who takes parcels and gives each a number by which it is followed. */
export interface CarrierDriver {
  /** @returns its tracking number. @throws Error in words when the carrier cannot be asked now */
  register(parcel: ParcelRequest): Promise<string>;
}

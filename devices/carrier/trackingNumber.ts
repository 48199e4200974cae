/** Weights of the digits of a serial number (UPU S10-12, 7.3). */
const WEIGHTS = [8, 6, 4, 2, 3, 5, 9, 7];

/** The check digit of eight digits (UPU S10-12): 11 less the weighted sum modulo 11, where 10 is 0 and 11 is 5. */
function checkDigit(digits: string): number {
  const total = WEIGHTS.reduce((all, weight, at) => all + weight * Number(digits[at]), 0);
  const check = 11 - (total % 11);
  return check === 10 ? 0 : check === 11 ? 5 : check;
}

/**
 * A tracking number as carriers of parcels write it (UPU S10): service, eight digits, check digit, country; `ZZ` is
 * none.
 */
export function trackingNumber(serial: number): string {
  const digits = String(serial).padStart(8, '0').slice(-8);
  return `CM${digits}${checkDigit(digits)}ZZ`;
}

/** Whether a tracking number was read right. */
export const isTrackingNumber = (text: string): boolean =>
  /^[A-Z]{2}\d{9}[A-Z]{2}$/.test(text) && checkDigit(text.slice(2, 10)) === Number(text[10]);

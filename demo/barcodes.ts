import { checkDigit } from '../core/goods/barcode.ts';

export { ownEan13 } from '../core/goods/barcode.ts';

/** An EAN-8 of the range for use inside a company (2), for goods with little room. */
export function ownEan8(serial: number): string {
  const digits = `2${String(serial).padStart(6, '0')}`;
  return digits + checkDigit(digits);
}

/** A UPC-A of number system 4 (for use inside a company), as it is stored: 13 digits. */
export function ownUpcA(serial: number): string {
  const digits = `4${String(serial).padStart(10, '0')}`;
  return `0${digits}${checkDigit(digits)}`;
}

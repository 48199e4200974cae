/** The number systems of retail barcodes that the entry field knows (ISO/IEC 15420). */
export type Symbology = 'EAN-13' | 'EAN-8' | 'UPC-A' | 'UPC-E';

export interface Barcode {
  symbology: Symbology;
  /** The one spelling under which a code is stored: EAN-8 as its 8 digits, all others as 13 digits. */
  canonical: string;
}

/**
 * The GS1 check digit of the digits before it: weights 3 and 1 alternating from the right
 * (GS1 General Specifications, 7.9).
 * @param digits the code without its check digit
 */
export function checkDigit(digits: string): number {
  let total = 0;
  for (let at = digits.length - 1, weight = 3; at >= 0; at--, weight = 4 - weight) {
    total += Number(digits[at]) * weight;
  }
  return (10 - (total % 10)) % 10;
}

/** Whether the last digit of a code is the right check digit. */
export function hasRightCheckDigit(code: string): boolean {
  return /^\d{2,}$/.test(code) && checkDigit(code.slice(0, -1)) === Number(code.at(-1));
}

/** An EAN-13 of the range for use inside a company (20–29; GS1 General Specifications, 2.1.11.1). */
export function ownEan13(prefix: number, serial: number): string {
  const digits = `${prefix}${String(serial).padStart(10, '0')}`;
  return digits + checkDigit(digits);
}

/**
 * Expands the 8 digits of a UPC-E code (number system, six digits, check digit) to the 12 of UPC-A
 * (GS1 General Specifications, 5.2.2.4).
 * @returns `null` when the digits are no UPC-E code
 */
export function expandUpcE(code: string): string | null {
  if (!/^[01]\d{7}$/.test(code)) return null;
  const [system, a, b, c, d, e, last, check] = code;
  let body: string;
  if (last === '0' || last === '1' || last === '2') body = `${a}${b}${last}0000${c}${d}${e}`;
  else if (last === '3') body = `${a}${b}${c}00000${d}${e}`;
  else if (last === '4') body = `${a}${b}${c}${d}00000${e}`;
  else body = `${a}${b}${c}${d}${e}0000${last}`;
  return `${system}${body}${check}`;
}

/**
 * What retail barcodes a row of digits can be. Eight digits may be both EAN-8 and UPC-E; the more common
 * reading comes first. A wrong check digit yields nothing.
 */
export function readBarcode(text: string): Barcode[] {
  if (!/^\d+$/.test(text)) return [];
  if (text.length === 13 && hasRightCheckDigit(text)) return [{ symbology: 'EAN-13', canonical: text }];
  if (text.length === 12 && hasRightCheckDigit(text)) return [{ symbology: 'UPC-A', canonical: `0${text}` }];
  if (text.length !== 8) return [];
  const found: Barcode[] = [];
  if (hasRightCheckDigit(text)) found.push({ symbology: 'EAN-8', canonical: text });
  const expanded = expandUpcE(text);
  if (expanded && hasRightCheckDigit(expanded)) found.push({ symbology: 'UPC-E', canonical: `0${expanded}` });
  return found;
}

/** Whether digits look like a retail barcode of which one digit was misread: right length, wrong check digit. */
export function looksMisread(text: string): boolean {
  return /^(\d{8}|\d{12}|\d{13})$/.test(text) && readBarcode(text).length === 0;
}

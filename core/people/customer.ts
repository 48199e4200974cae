import { wordsOf } from '../words.ts';

/** What tells customers apart. */
export interface CustomerFacts {
  name: string;
  company: string;
  phone: string;
  mail: string;
}

/** A telephone number as it is compared: its digits. */
export const phoneDigits = (phone: string): string => phone.replace(/\D/g, '');

/** The words under which a customer is found, each after a space: name, company, mail and its parts, phone. */
export function customerWords({ name, company, phone, mail }: CustomerFacts): string {
  const digits = phoneDigits(phone);
  const words = new Set([
    ...wordsOf(name),
    ...wordsOf(company),
    ...(mail ? [mail.toLowerCase(), ...wordsOf(mail.replace('@', ' '))] : []),
    // People give the whole number or its end.
    ...(digits.length > 4 ? [digits, digits.slice(-4), digits.slice(-7)] : [digits]),
  ]);
  words.delete('');
  return ` ${[...words].join(' ')}`;
}

/** The beginnings of words that a typed search asks for. A typed number is compared by its digits. */
export function searchedWords(text: string): string[] {
  const typed = text.trim();
  if (/^[\d\s()+./-]+$/.test(typed)) return [phoneDigits(typed)].filter(Boolean);
  return typed.includes('@') ? [typed.toLowerCase()] : wordsOf(typed);
}

/** A name as it is compared: its words, in whatever order. */
export const plainName = (name: string): string => wordsOf(name).toSorted().join(' ');

/** Why two customers may be one person; `null` when nothing says so. */
export function likelySame(a: CustomerFacts, b: CustomerFacts): string | null {
  const [phoneA, phoneB] = [phoneDigits(a.phone), phoneDigits(b.phone)];
  if (phoneA && phoneA === phoneB) return 'same phone number';
  if (a.mail && a.mail.trim().toLowerCase() === b.mail.trim().toLowerCase()) return 'same mail address';
  const name = plainName(a.name);
  if (name && name === plainName(b.name)) return 'same name';
  return null;
}

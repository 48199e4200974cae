import { DAY_MS } from '../day.ts';

/**
 * In how many days a birthday is, from 0 (today) to 365. Who was born on 29 February has it on 1 March in other years.
 * @param day today, `YYYY-MM-DD`
 */
export function daysToBirthday({ month, day }: { month: number; day: number }, today: string): number {
  const from = Date.parse(`${today}T00:00:00Z`);
  const year = Number(today.slice(0, 4));
  const next = [year, year + 1].map((one) => Date.UTC(one, month - 1, day)).find((at) => at >= from) ?? from;
  return Math.round((next - from) / DAY_MS);
}

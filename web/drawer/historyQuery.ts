/** Which closed shifts are looked at, as typed and chosen. */
export interface HistoryChoice {
  from: string;
  to: string;
  tillId: number | null;
  staffId: number | null;
}

/** The choice as the address of the history takes it. */
export function historyQuery(choice: HistoryChoice): string {
  const query = new URLSearchParams();
  for (const [key, value] of Object.entries(choice)) if (value) query.set(key, String(value));
  return query.toString();
}

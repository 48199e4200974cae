const formats = new Map<string, Intl.DateTimeFormat>();

/** The shop's calendar day, `YYYY-MM-DD`. */
export function shopDay(at: Date, timezone: string): string {
  let format = formats.get(timezone);
  if (!format) {
    // This language writes days the way ISO 8601 does.
    format = new Intl.DateTimeFormat('en-CA', { timeZone: timezone });
    formats.set(timezone, format);
  }
  return format.format(at);
}

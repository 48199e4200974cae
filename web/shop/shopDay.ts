const formats = new Map<string, Intl.DateTimeFormat>();

const clocks = new Map<string, Intl.DateTimeFormat>();

/** The shop's time of day, `HH:MM`. */
export function shopTimeOfDay(at: Date, timezone: string): string {
  let format = clocks.get(timezone);
  if (!format) {
    format = new Intl.DateTimeFormat('en-GB', { timeZone: timezone, hour: '2-digit', minute: '2-digit' });
    clocks.set(timezone, format);
  }
  return format.format(at);
}

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

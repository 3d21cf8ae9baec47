import { region } from "./locale";

const formats = new Map<string, Intl.DateTimeFormat>();

/** The same as toLocaleString, but a format is worked out once: that is dear with many rows. */
function written(at: Date, language: string, how: Intl.DateTimeFormatOptions): string {
  const key = language + JSON.stringify(how);
  let format = formats.get(key);
  if (!format) {
    format = new Intl.DateTimeFormat(language, how);
    formats.set(key, format);
  }
  return format.format(at);
}

/** Months have names and never numbers, which people read in either order. */
function inRegion(
  iso: string | number,
  zone: string | undefined,
  how: Intl.DateTimeFormatOptions,
): string {
  return written(new Date(iso), region().language, {
    ...how,
    ...(zone !== undefined && { timeZone: zone }),
  });
}

const clock = (seconds: boolean): Intl.DateTimeFormatOptions => {
  const { hourCycle } = region();
  return {
    hour: hourCycle === "h12" ? "numeric" : "2-digit",
    minute: "2-digit",
    ...(seconds && { second: "2-digit" }),
    hourCycle,
  };
};

/** "2031-03-03", by which days are told apart; not for reading. */
export const dayKey = (iso: string | number, zone: string): string =>
  written(new Date(iso), "en-CA", {
    timeZone: zone,
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
  });

/** Hour and minute in the given zone; with the day if it is not that of `now`. */
export function moment(iso: string | number, zone: string, now: number): string {
  const hour = inRegion(iso, zone, clock(false));
  if (dayKey(iso, zone) === dayKey(now, zone)) return hour;
  const recent = Math.abs(now - new Date(iso).getTime()) < 6 * 86_400_000;
  const day = inRegion(
    iso,
    zone,
    recent ? { weekday: "short" } : { day: "numeric", month: "short" },
  );
  return `${day} ${hour}`;
}

/** "3 Mar 2031, 09:12:05". */
export const exactly = (iso: string | number, zone?: string): string =>
  inRegion(iso, zone, { day: "numeric", month: "short", year: "numeric", ...clock(true) });

/** "09:12:05". */
export const toTheSecond = (iso: string | number, zone: string): string =>
  inRegion(iso, zone, clock(true));

/** "3 March". */
export const dayOfYear = (iso: string | number, zone: string): string =>
  inRegion(iso, zone, { day: "numeric", month: "long" });

/** "3 March 2031". */
export const fullDay = (iso: string | number, zone: string): string =>
  inRegion(iso, zone, { day: "numeric", month: "long", year: "numeric" });

/** "Monday". */
export const weekday = (iso: string | number, zone: string): string =>
  inRegion(iso, zone, { weekday: "long" });

/** How far a zone's clock is ahead of UTC at a moment, in milliseconds. */
function ahead(moment: number, zone: string): number {
  const parts = new Intl.DateTimeFormat("en-GB", {
    timeZone: zone,
    hourCycle: "h23",
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
    hour: "2-digit",
    minute: "2-digit",
    second: "2-digit",
  }).formatToParts(moment);
  const part = (type: string) => Number(parts.find((p) => p.type === type)?.value ?? 0);
  const wall = Date.UTC(
    part("year"),
    part("month") - 1,
    part("day"),
    part("hour"),
    part("minute"),
    part("second"),
  );
  return wall - Math.floor(moment / 1000) * 1000;
}

/** A wall clock's "2031-03-03T14:00" in a zone; of a doubled hour the first, undefined if no time. */
export function fromWall(text: string, zone: string): Date | undefined {
  const utc = Date.parse(`${text}Z`);
  if (Number.isNaN(utc)) return undefined;
  const before = utc - ahead(utc - 86_400_000, zone);
  const after = utc - ahead(utc + 86_400_000, zone);
  const fits = [before, after].sort((x, y) => x - y).find((t) => t + ahead(t, zone) === utc);
  return new Date(fits ?? before);
}

/** What a wall clock in a zone shows, as "2031-03-03T14:00". */
export function toWall(moment: string | number, zone: string): string {
  const at = new Date(moment).getTime();
  return new Date(at + ahead(at, zone)).toISOString().slice(0, 16);
}

import { type Key, phrase } from "../words/phrase";
import { region } from "./locale";

/** Numbers as people read them. Sizes are decimal: 1 GB = 10^9 B. */

const UNITS = ["B", "kB", "MB", "GB", "TB"] as const;

export function size(bytes: number): string {
  let value = Math.abs(bytes);
  let unit = 0;
  while (value >= 999.95 && unit < UNITS.length - 1) {
    value /= 1000;
    unit++;
  }
  const digits = unit === 0 ? String(value) : decimal(value, 1);
  return `${bytes < 0 ? "−" : ""}${digits} ${UNITS[unit] ?? ""}`;
}

/** With as many digits as asked for, behind the sign of the person's region. */
export const decimal = (value: number, digits: number): string =>
  value.toLocaleString(region().language, {
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
    useGrouping: false,
  });

export function sizeChange(bytes: number): string {
  if (bytes === 0) return "0";
  return bytes > 0 ? `+${size(bytes)}` : size(bytes);
}

export function change(n: number): string {
  if (n === 0) return "0";
  return n > 0 ? `+${n}` : `−${-n}`;
}

/** "12 345": the thousands apart as in ISO 80000-1, which no language reads as a decimal sign. */
export const whole = (n: number): string => n.toLocaleString("en").replaceAll(",", " ");

type Noun = Key extends infer K ? (K extends `count.${infer N}` ? N : never) : never;

export const count = (n: number, noun: Noun): string =>
  phrase(`count.${noun}`, { n, shown: whole(n) });

/** "40 s", "11 min", "3 h 50 min", "2 days"; never negative. */
export function age(milliseconds: number): string {
  const seconds = Math.max(0, Math.floor(milliseconds / 1000));
  if (seconds < 60) return `${seconds} s`;
  const minutes = Math.round(seconds / 60);
  if (minutes < 60) return `${minutes} min`;
  const hours = Math.floor(minutes / 60);
  if (hours < 48) return minutes % 60 === 0 ? `${hours} h` : `${hours} h ${minutes % 60} min`;
  return phrase("shared.days", { n: Math.round(hours / 24) });
}

/** Work since a moment, in milliseconds: it grows while the file may be open; undefined if unknown. */
export function lostSince(
  since: string | undefined,
  exposure: { at: string; open: { mayHoldWork: boolean } },
  now: number,
): number | undefined {
  if (since === undefined) return undefined;
  const until = exposure.open.mayHoldWork ? now : new Date(exposure.at).getTime();
  return until - new Date(since).getTime();
}

/** "11 minutes", for the sentence a person came to hear. */
export function lostTime(milliseconds: number): string {
  const minutes = Math.round(milliseconds / 60_000);
  if (milliseconds < 60_000) return count(Math.round(milliseconds / 1000), "second");
  if (minutes < 120) return count(minutes, "minute");
  return age(milliseconds);
}

const DURATION = /^PT(?:(\d+)H)?(?:(\d+)M)?(?:([\d.]+)S)?$/;

export function isDuration(value: unknown): value is string {
  return typeof value === "string" && DURATION.test(value);
}

/** ISO 8601 durations as Java writes them ("PT1H30M", "PT2.5S") to seconds. */
export function seconds(duration: string): number {
  const m = DURATION.exec(duration);
  if (!m) throw new Error(`Not a duration: ${duration}`);
  return Number(m[1] ?? 0) * 3600 + Number(m[2] ?? 0) * 60 + Number(m[3] ?? 0);
}

export const minutes = (duration: string): number => seconds(duration) / 60;

/** Whole days. */
export const days = (duration: string): number => Math.round(seconds(duration) / 86_400);

export function duration(inSeconds: number): string {
  return `PT${inSeconds}S`;
}

export const KIND: Record<string, string> = {
  LIVE: phrase("shared.liveFile"),
  CAPTURE: "Kavrin",
  SECURED: phrase("shared.securedByKavrin"),
  AS_WRITTEN: phrase("shared.keptByKavrin"),
  AUTOSAVE: phrase("shared.programAutosave"),
  KEPT_BY_SAVE: phrase("shared.keptByASave"),
  RESCUE: phrase("shared.rescueFile"),
  ASIDE: phrase("shared.putAside"),
  STRAY: phrase("shared.stray"),
};

/** What Kavrin did with a file that a program wrote of its own accord. */
export const SAVED_FROM: Record<string, string> = {
  SECURED: phrase("shared.secured"),
  AS_WRITTEN: phrase("shared.kept"),
};

export const VERDICT: Record<string, string> = {
  INTACT: phrase("shared.intact"),
  NO_FAULT: phrase("shared.noFaultFound"),
  NOT_CHECKED: phrase("shared.notChecked"),
  UNCHECKABLE: phrase("shared.couldNotBeChecked"),
  DOUBTFUL: phrase("shared.doubtful"),
  DAMAGED: phrase("shared.damaged"),
};

/** Without what is undefined, so that it is not sent at all. */
export const given = <T extends object>(value: T): T =>
  Object.fromEntries(Object.entries(value).filter(([, v]) => v !== undefined)) as T;

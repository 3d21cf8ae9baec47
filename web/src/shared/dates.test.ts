// @vitest-environment happy-dom
import fc from "fast-check";
import { afterEach, expect, test } from "vitest";
import { dayKey, dayOfYear, exactly, fullDay, moment, toTheSecond, weekday } from "./dates";
import { regionOf } from "./locale";

const AT = "2031-03-03T14:05:09Z";
const NOW = Date.parse("2031-03-03T18:00:00Z");

const speaks = (language: string) => {
  Object.defineProperty(navigator, "language", { value: language, configurable: true });
};

afterEach(() => {
  speaks("en-GB");
});

// Unicode CLDR: which regions count their hours twice to twelve, and where the month comes first.
test("the day and the hours are written as in the person's region", () => {
  expect(moment(AT, "UTC", NOW)).toBe("14:05");
  expect(exactly(AT, "UTC")).toBe("3 Mar 2031, 14:05:09");
  speaks("en-US");
  expect(moment(AT, "UTC", NOW).replace(" ", " ")).toBe("2:05 PM");
  expect(dayOfYear(AT, "UTC")).toBe("March 3");
  speaks("de");
  expect(toTheSecond(AT, "Europe/Vienna")).toBe("15:05:09");
  expect(fullDay(AT, "UTC")).toBe("3 March 2031");
  speaks("pt-BR");
  expect(moment(AT, "UTC", NOW)).toBe("14:05");
});

test("another day is named, and one long past has its month", () => {
  expect(moment("2031-03-01T14:05:00Z", "UTC", NOW)).toBe("Sat 14:05");
  expect(moment("2031-01-01T14:05:00Z", "UTC", NOW)).toBe("1 Jan 14:05");
  expect(weekday(AT, "UTC")).toBe("Monday");
});

test("the day is that of the zone", () => {
  expect(dayKey("2031-03-03T23:30:00Z", "Europe/Oslo")).toBe("2031-03-04");
});

test("months are never numbers, which people read in either order", () => {
  fc.assert(
    fc.property(
      fc.constantFrom("en-US", "en-GB", "de-AT", "fr-CH", "ja-JP", "pt-BR", "sv-SE", "ar-EG"),
      fc.date({ min: new Date("2000-01-01"), max: new Date("2100-01-01"), noInvalidDate: true }),
      (language, at) => {
        speaks(language);
        const iso = at.toISOString();
        for (const text of [exactly(iso, "UTC"), fullDay(iso, "UTC"), dayOfYear(iso, "UTC")]) {
          expect(text).toMatch(/[A-Z][a-z]{2}/);
        }
      },
    ),
    { numRuns: 200 },
  );
});

test("a language nobody knows is no reason to show nothing", () => {
  expect(regionOf("not a language")).toEqual({ language: "en-GB", hourCycle: "h23" });
});

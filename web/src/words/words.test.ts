import fc from "fast-check";
import { IntlMessageFormat } from "intl-messageformat";
import { afterEach, expect, test } from "vitest";
import { count, decimal, size } from "../shared/words";
import german from "./de.json";
import english from "./en.json";
import { LANGUAGES, ofBrowser } from "./language";
import { type Key, phrase, speak } from "./phrase";

/** As the parser numbers them: what is no hole is plain text. */
const TYPE = { literal: new IntlMessageFormat("x", "en").getAst()[0]?.type };

type Ast = ReturnType<IntlMessageFormat["getAst"]>;

/** The holes of a message and its tags, by name; those inside plurals too. */
function holes(ast: Ast): string[] {
  return ast.flatMap((part) => [
    ...("value" in part && part.type !== TYPE.literal ? [part.value] : []),
    ...("options" in part ? Object.values(part.options).flatMap((o) => holes(o.value)) : []),
    ...("children" in part ? holes(part.children) : []),
  ]);
}

const holesOf = (message: string, language: string) =>
  [...new Set(holes(new IntlMessageFormat(message, language).getAst()))].sort();

const sources = import.meta.glob<string>(["../**/*.{ts,tsx}", "!../**/*.test.*"], {
  query: "?raw",
  import: "default",
  eager: true,
});

afterEach(() => speak("en"));

test("German says all that English says, with the same holes", () => {
  expect(Object.keys(german)).toEqual(Object.keys(english));
  const unlike = (Object.keys(english) as Key[]).filter(
    (key) => holesOf(german[key], "de").join() !== holesOf(english[key], "en").join(),
  );
  expect(unlike).toEqual([]);
});

test("no message is left that no screen says", () => {
  const code = Object.values(sources).join("\n");
  const unsaid = Object.keys(english).filter(
    (key) => !key.startsWith("count.") && !code.includes(`"${key}"`),
  );
  expect(unsaid).toEqual([]);
  const uncounted = Object.keys(english)
    .filter((key) => key.startsWith("count."))
    .filter((key) => !code.includes(`"${key.slice("count.".length)}"`));
  expect(uncounted).toEqual([]);
});

// Unicode CLDR, plural rules of English and German: "one" is the whole number 1 alone.
test.each(["en", "de"] as const)("%s counts by the plural rules of CLDR", async (language) => {
  await speak(language);
  const [one, many] = { en: ["file", "files"], de: ["Datei", "Dateien"] }[language];
  const rules = new Intl.PluralRules(language);
  fc.assert(
    fc.property(fc.nat(3_000_000), (n) => {
      const noun = count(n, "file").replace(/^[\d\s]+/, "");
      expect(noun).toBe(rules.select(n) === "one" ? one : many);
    }),
  );
});

test("numbers and words are those of the language", async () => {
  expect(size(24_800_000)).toBe("24.8 MB");
  await speak("de");
  expect(phrase("overview.youLost", { lostTime: "11 Minuten" })).toBe(
    "Sie haben 11 Minuten verloren",
  );
  expect(decimal(0.5, 2)).toBe("0,50");
  expect(size(24_800_000)).toBe("24,8 MB");
});

test("of what the browser asks for, the first language there is", () => {
  expect(ofBrowser(["fr-CA", "de-AT", "en"])).toBe("de");
  expect(ofBrowser(["nb", "sv-SE"])).toBe("en");
  fc.assert(
    fc.property(fc.array(fc.string(), { maxLength: 5 }), (asked) => {
      expect(Object.keys(LANGUAGES)).toContain(ofBrowser(asked));
    }),
  );
});

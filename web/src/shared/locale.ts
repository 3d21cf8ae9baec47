import { type Language } from "../words/language";
import { spoken } from "../words/phrase";

/** How the person's region writes days, hours and numbers. */
export interface Region {
  /** The words' language as written there, which says whether the day or the month comes first. */
  language: string;
  hourCycle: "h12" | "h23";
}

const WITHOUT: Region = { language: "en-GB", hourCycle: "h23" };

/**
 * By the language the browser asks for, such as "de-AT": its region, a likely one where it names
 * none, and whether its day has twice twelve hours.
 */
export function regionOf(language: string, words: Language = "en"): Region {
  try {
    const region = new Intl.Locale(language).maximize().region;
    const { hourCycle } = new Intl.DateTimeFormat(language, { hour: "numeric" }).resolvedOptions();
    const twice = hourCycle === "h11" || hourCycle === "h12";
    return {
      language: region === undefined ? WITHOUT.language : `${words}-${region}`,
      hourCycle: twice ? "h12" : "h23",
    };
  } catch {
    return WITHOUT;
  }
}

const known = new Map<string, Region>();

/** The one of this browser. */
export function region(): Region {
  const language = typeof navigator === "undefined" ? WITHOUT.language : navigator.language;
  const key = `${spoken()} ${language}`;
  const found = known.get(key) ?? regionOf(language, spoken());
  known.set(key, found);
  return found;
}

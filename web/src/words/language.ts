/** The languages there is a catalogue of, by their own names. */
export const LANGUAGES = { en: "English", de: "Deutsch" } as const;

export type Language = keyof typeof LANGUAGES;

const KEY = "kavrin.language";

const isLanguage = (tag: string | null | undefined): tag is Language =>
  tag !== null && tag !== undefined && Object.hasOwn(LANGUAGES, tag);

/** The first the browser asks for that there is; English otherwise. */
export const ofBrowser = (asked: readonly string[]): Language =>
  asked.map((tag) => tag.split("-")[0]).find(isLanguage) ?? "en";

/** The one the person picked, else what the browser asks for. */
export function proposed(): Language {
  const picked = localStorage.getItem(KEY);
  return isLanguage(picked) ? picked : ofBrowser(navigator.languages);
}

/** The page is read anew: views hold words they read once. */
export function pick(language: Language): void {
  localStorage.setItem(KEY, language);
  window.location.reload();
}

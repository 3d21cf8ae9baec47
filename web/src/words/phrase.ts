import { IntlMessageFormat } from "intl-messageformat";
import { createElement, Fragment, type ReactNode } from "react";
import english from "./en.json";
import { type Language, proposed } from "./language";

export type Key = keyof typeof english;
export type Catalogue = Record<Key, string>;

const OTHERS: Record<Exclude<Language, "en">, () => Promise<{ default: Catalogue }>> = {
  de: () => import("./de.json"),
};

let language: Language = "en";
let catalogue: Catalogue = english;
const read = new Map<Key, IntlMessageFormat>();

/** The language all phrases are in. */
export const spoken = (): Language => language;

/** Reads the catalogue of a language; before any view is, since views hold phrases as constants. */
export async function speak(wanted: Language = proposed()): Promise<void> {
  catalogue = wanted === "en" ? english : (await OTHERS[wanted]()).default;
  language = wanted;
  read.clear();
  if (typeof document !== "undefined") document.documentElement.lang = wanted;
}

type Plain = string | number | undefined;
type Rich = ReactNode | ((words: ReactNode) => ReactNode);

/** In a row, as if it were written so: none needs a key. */
const row = (parts: ReactNode[]): ReactNode => createElement(Fragment, null, ...parts);

/**
 * A message of the catalogue (ICU MessageFormat) with what belongs in its holes; of parts of the
 * page it makes a row of them. What is undefined leaves its hole empty.
 */
export function phrase(key: Key, values?: Record<string, Plain>): string;
export function phrase(key: Key, values: Record<string, Rich>): ReactNode;
export function phrase(key: Key, values: Record<string, Rich> = {}): ReactNode {
  let message = read.get(key);
  if (!message) {
    message = new IntlMessageFormat(catalogue[key], language);
    read.set(key, message);
  }
  const given = Object.entries(values).map(([name, value]) => [
    name,
    typeof value === "function" ? (chunks: ReactNode[]) => value(row(chunks)) : (value ?? ""),
  ]);
  const told = message.format<ReactNode>(
    Object.fromEntries(given) as Parameters<typeof message.format<ReactNode>>[0],
  );
  return Array.isArray(told) ? row(told) : told;
}

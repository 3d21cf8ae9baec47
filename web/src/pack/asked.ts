import { phrase } from "../words/phrase";

const WORDS: Record<string, string> = {
  outside: phrase("pack.liesOutsideTheProjectIncludeIt"),
  secret: phrase("pack.byItsNameItHoldsA"),
};

/** Why a file goes along only if a person says so, and the question. */
export const asked = (why: string) => WORDS[why] ?? why;

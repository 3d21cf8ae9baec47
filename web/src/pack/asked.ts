const WORDS: Record<string, string> = {
  outside: "lies outside the project: take it along",
  secret: "by its name it holds a secret: take it along",
};

/** Why a file goes along only if a person says so, and the question. */
export const asked = (why: string) => WORDS[why] ?? why;

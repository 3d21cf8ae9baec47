const WORDS: Record<string, string> = {
  outside: "lies outside the project: include it",
  secret: "by its name it holds a secret: include it",
};

/** Why a file goes along only if a person says so, and the question. */
export const asked = (why: string) => WORDS[why] ?? why;

import type { Leftover, ProgramProfile, SettingsLink } from "../api/schema";
import { duration, seconds } from "../shared/words";

/** A program sheet as edited in fields. */
export interface ProfileForm {
  name: string;
  process: string;
  sessionSign: string;
  lockText: string;
  logFolder: string;
  logPattern: string;
  logWords: string;
  everyMinutes: string;
  leftovers: Leftover[];
  settings?: SettingsLink;
}

export const KINDS = [
  ["AUTOSAVE", "its own timed copies"],
  ["RESCUE", "written as it dies"],
  ["KEPT_BY_SAVE", "earlier version kept by each save"],
] as const;

export function toForm(sheet: ProgramProfile): ProfileForm {
  return {
    name: sheet.name,
    process: sheet.process,
    sessionSign: sheet.sessionSign ?? "",
    lockText: sheet.lockText ?? "",
    logFolder: sheet.crashLog?.folder ?? "",
    logPattern: sheet.crashLog?.pattern ?? "",
    logWords: sheet.crashLog?.words ?? "",
    everyMinutes: sheet.writesEvery ? String(seconds(sheet.writesEvery) / 60) : "",
    leftovers: sheet.leftovers,
    ...(sheet.settings ? { settings: sheet.settings } : {}),
  };
}

export function toProfile(form: ProfileForm): ProgramProfile {
  const minutes = Number(form.everyMinutes);
  return {
    name: form.name.trim() || "unknown program",
    process: form.process.trim(),
    ...(form.sessionSign.trim() ? { sessionSign: form.sessionSign.trim() } : {}),
    ...(form.lockText.trim() ? { lockText: form.lockText.trim() } : {}),
    ...(form.logPattern.trim()
      ? {
          crashLog: {
            folder: form.logFolder.trim() || ".",
            pattern: form.logPattern.trim(),
            words: form.logWords.trim(),
          },
        }
      : {}),
    ...(form.everyMinutes.trim() && minutes > 0
      ? { writesEvery: duration(Math.round(minutes * 60)) }
      : {}),
    leftovers: form.leftovers.filter((l) => l.pattern.trim() !== ""),
    ...(form.settings ? { settings: form.settings } : {}),
  };
}

export const NO_PROFILE: ProfileForm = {
  name: "",
  process: "",
  sessionSign: "",
  lockText: "",
  logFolder: "",
  logPattern: "",
  logWords: "",
  everyMinutes: "",
  leftovers: [],
};

import type { AskedSettings, Leftover, ProgramProfile, SettingsLink } from "../api/schema";
import { duration, seconds } from "../shared/words";
import { phrase } from "../words/phrase";

/** Names as one types them, parted by spaces. */
export interface OwnFilesForm {
  folder: string;
  names: string;
}

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
  ownFiles: OwnFilesForm[];
  settings?: SettingsLink;
  asked?: AskedSettings;
}

export const KINDS = [
  ["AUTOSAVE", phrase("programs.itsOwnTimedCopies")],
  ["RESCUE", phrase("programs.writtenAsItDies")],
  ["KEPT_BY_SAVE", phrase("programs.earlierVersionKeptByEachSave")],
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
    ownFiles: sheet.ownFiles.map((o) => ({ folder: o.folder, names: o.rule.join(" ") })),
    ...(sheet.settings ? { settings: sheet.settings } : {}),
    ...(sheet.asked ? { asked: sheet.asked } : {}),
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
    ownFiles: form.ownFiles
      .map((o) => ({ folder: o.folder.trim(), rule: o.names.split(/\s+/).filter(Boolean) }))
      .filter((o) => o.folder !== "" && o.rule.length > 0),
    ...(form.settings ? { settings: form.settings } : {}),
    ...(form.asked ? { asked: form.asked } : {}),
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
  ownFiles: [],
};

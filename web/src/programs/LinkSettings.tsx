import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Project, SettingsLink, SettingsLook } from "../api/schema";
import { useApply, useSettingsLook } from "../api/queries";
import { Failure, Main, Side } from "../shared/parts";
import { given } from "../shared/words";
import { phrase } from "../words/phrase";
import { Choice, Wishes } from "./Wishes";

type Meaning = "ENABLED" | "INTERVAL" | "COUNT" | "FOLDER" | "KEEP_EARLIER";

const MEANINGS: [Meaning, string][] = [
  ["ENABLED", phrase("programs.switchesItsAutosaveOn")],
  ["INTERVAL", phrase("programs.timeBetweenAutosaves")],
  ["COUNT", phrase("programs.autosavesItKeeps")],
  ["FOLDER", phrase("programs.folderOfItsAutosaves")],
  ["KEEP_EARLIER", phrase("programs.keepsTheEarlierFileOnSave")],
];

const KINDS: [SettingsLink["kind"], string][] = [
  ["INI", phrase("programs.sectionsAndKeyValue")],
  ["PROPERTIES", phrase("programs.keyValueAsJavaWritesIt")],
  ["JSON", "JSON"],
  ["YAML", "YAML"],
  ["XML", "XML"],
  ["LINES", phrase("programs.keyAndValueALineAnother")],
  ["SINGLE", phrase("programs.oneValueTheWholeFile")],
  ["REGISTRY", phrase("programs.exportedRegistryOnlyRead")],
  ["PROPERTY_LIST", phrase("programs.propertyListAsXmlOnlyRead")],
  ["SQLITE", phrase("programs.sqliteDatabaseOnlyRead")],
];

const UNITS: SettingsLink["unit"][] = ["MILLISECONDS", "SECONDS", "MINUTES", "HOURS"];

const ENDINGS: Record<string, SettingsLink["kind"]> = {
  ini: "INI",
  cfg: "INI",
  conf: "INI",
  properties: "PROPERTIES",
  json: "JSON",
  yaml: "YAML",
  yml: "YAML",
  xml: "XML",
  reg: "REGISTRY",
  plist: "PROPERTY_LIST",
  sqlite: "SQLITE",
  sqlite3: "SQLITE",
  db: "SQLITE",
};

const kindOf = (file: string) => ENDINGS[file.split(".").at(-1)?.toLowerCase() ?? ""] ?? "INI";

const fresh: SettingsLink = {
  file: "",
  kind: "INI",
  separator: "",
  keys: {},
  unit: "MINUTES",
  wanted: { enabled: true },
};

/** Says which file holds a program's settings; what its keys mean is proposed from reading it. */
export function LinkSettings({ project, onDone }: { project: Project; onDone: () => void }) {
  const known = project.program.settings;
  const [link, setLink] = useState<SettingsLink>(known ?? fresh);
  const [seen, setSeen] = useState<SettingsLook>();
  const look = useSettingsLook();
  const apply = useApply(project.id);
  const set = (changes: Partial<SettingsLink>) => setLink({ ...link, ...changes });
  const read = () =>
    look.mutate(link, {
      onSuccess: (found) => {
        setSeen(found);
        if (Object.keys(link.keys).length === 0) {
          set({ keys: found.guess.keys, unit: found.guess.unit });
        }
      },
    });
  const keep = (settings: SettingsLink | undefined) => {
    apply.mutate(
      {
        version: project.version,
        plan: project.plan,
        program: given({ ...project.program, settings }),
      },
      { onSuccess: onDone },
    );
  };
  const keys = link.keys as Partial<Record<Meaning, string>>;
  return (
    <Box mt="3" maxW="860px">
      <Flex gap="2" align="center" wrap="wrap">
        <Input
          size="sm"
          w="420px"
          fontFamily="mono"
          fontSize="13px"
          borderColor="hairline"
          aria-label={phrase("programs.settingsFile")}
          placeholder={phrase("programs.homeOrOrName")}
          value={link.file}
          onChange={(e) => set({ file: e.target.value, kind: kindOf(e.target.value) })}
        />
        <Choice
          label={phrase("programs.kindOfSettingsFile")}
          w="230px"
          value={link.kind}
          options={KINDS}
          onChange={(kind) => set({ kind })}
        />
        {link.kind === "LINES" && (
          <Input
            size="sm"
            w="60px"
            fontFamily="mono"
            borderColor="hairline"
            aria-label={phrase("programs.separatorBetweenKeyAndValue")}
            value={link.separator}
            onChange={(e) => set({ separator: e.target.value })}
          />
        )}
        <Side loading={look.isPending} disabled={link.file.trim() === ""} onClick={read}>
          {phrase("programs.readIt")}
        </Side>
      </Flex>
      <Failure error={look.error ?? apply.error} />
      {(seen ?? known) && (
        <>
          {MEANINGS.map(([meaning, words]) => (
            <Flex key={meaning} gap="3" align="center" fontSize="13px" py="1">
              <Text w="210px" color="muted">
                {words}
              </Text>
              <Choice
                label={phrase("programs.keyThat", { words })}
                w="320px"
                none={phrase("programs.noSuchKey")}
                value={keys[meaning] ?? ""}
                options={(seen?.entries.map((e) => e.key) ?? Object.values(keys)).map(
                  (key) => [key, key] as const,
                )}
                onChange={(key) => set({ keys: given({ ...keys, [meaning]: key || undefined }) })}
              />
              {meaning === "INTERVAL" && keys.INTERVAL && (
                <Choice
                  label={phrase("programs.unitOfTheInterval")}
                  w="130px"
                  value={link.unit}
                  options={UNITS.map((u) => [u, u.toLowerCase()] as const)}
                  onChange={(unit) => set({ unit })}
                />
              )}
              <Text fontFamily="mono" color="muted">
                {seen?.entries.find((e) => e.key === keys[meaning])?.value ?? ""}
              </Text>
            </Flex>
          ))}
          <Wishes
            wanted={link.wanted}
            set={(changes) => set({ wanted: given({ ...link.wanted, ...changes }) })}
          />
        </>
      )}
      <Flex gap="2" mt="3">
        <Main disabled={!seen && !known} loading={apply.isPending} onClick={() => keep(link)}>
          {phrase("programs.save")}
        </Main>
        <Side onClick={onDone}>{phrase("programs.leaveItAsItWas")}</Side>
        {known && <Side onClick={() => keep(undefined)}>{phrase("programs.forgetTheFile")}</Side>}
      </Flex>
    </Box>
  );
}

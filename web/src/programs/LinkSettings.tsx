import { Box, Flex, Input, NativeSelect, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Project, SettingsLink, SettingsLook, Wanted } from "../api/schema";
import { useApply, useSettingsLook } from "../api/queries";
import { Failure, Main, Side } from "../shared/parts";
import { Number, Tick } from "../shared/fields";
import { duration, given, seconds } from "../shared/words";

type Meaning = "ENABLED" | "INTERVAL" | "COUNT" | "FOLDER" | "KEEP_EARLIER";

const MEANINGS: [Meaning, string][] = [
  ["ENABLED", "switches its autosave on"],
  ["INTERVAL", "time between autosaves"],
  ["COUNT", "autosaves it keeps"],
  ["FOLDER", "folder of its autosaves"],
  ["KEEP_EARLIER", "keeps the earlier file on save"],
];

const KINDS: [SettingsLink["kind"], string][] = [
  ["INI", "sections and key = value"],
  ["PROPERTIES", "key=value, as Java writes it"],
  ["JSON", "JSON"],
  ["YAML", "YAML"],
  ["XML", "XML"],
  ["LINES", "key and value a line, another separator"],
  ["SINGLE", "one value, the whole file"],
  ["REGISTRY", "exported registry, only read"],
  ["PROPERTY_LIST", "property list as XML, only read"],
  ["SQLITE", "SQLite database, only read"],
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

function Choice<T extends string>(props: {
  label: string;
  value: T | "";
  options: (readonly [T, string])[];
  none?: string;
  w: string;
  onChange: (value: T) => void;
}) {
  return (
    <NativeSelect.Root size="xs" w={props.w}>
      <NativeSelect.Field
        aria-label={props.label}
        borderColor="hairline"
        value={props.value}
        onChange={(e) => props.onChange(e.target.value as T)}
      >
        {props.none !== undefined && <option value="">{props.none}</option>}
        {props.options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </NativeSelect.Field>
      <NativeSelect.Indicator />
    </NativeSelect.Root>
  );
}

/** What each known key should say. */
function Wishes({ wanted, set }: { wanted: Wanted; set: (changes: Partial<Wanted>) => void }) {
  return (
    <Flex gap="4" wrap="wrap" align="center" fontSize="13px" mt="2">
      <Text color="muted">It should be</Text>
      <Tick label="on" on={wanted.enabled === true} onChange={(on) => set({ enabled: on })} />
      <Flex align="center" gap="1.5">
        every
        <Number
          label="Minutes between its autosaves at most"
          value={wanted.interval ? seconds(wanted.interval) / 60 : 0}
          min={0}
          max={1440}
          onChange={(m) => set({ interval: m > 0 ? duration(Math.round(m * 60)) : undefined })}
        />
        min at most (0: as it is)
      </Flex>
      <Flex align="center" gap="1.5">
        keeping
        <Number
          label="Autosaves it should keep at least"
          value={wanted.count ?? 0}
          min={0}
          max={10000}
          onChange={(n) => set({ count: n > 0 ? Math.round(n) : undefined })}
        />
        at least (0: as it is)
      </Flex>
    </Flex>
  );
}

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
          aria-label="Settings file"
          placeholder="/home/… or ~/… or $NAME/…"
          value={link.file}
          onChange={(e) => set({ file: e.target.value, kind: kindOf(e.target.value) })}
        />
        <Choice
          label="Kind of settings file"
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
            aria-label="Separator between key and value"
            value={link.separator}
            onChange={(e) => set({ separator: e.target.value })}
          />
        )}
        <Side loading={look.isPending} disabled={link.file.trim() === ""} onClick={read}>
          Read it
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
                label={`Key that ${words}`}
                w="320px"
                none="no such key"
                value={keys[meaning] ?? ""}
                options={(seen?.entries.map((e) => e.key) ?? Object.values(keys)).map(
                  (key) => [key, key] as const,
                )}
                onChange={(key) => set({ keys: given({ ...keys, [meaning]: key || undefined }) })}
              />
              {meaning === "INTERVAL" && keys.INTERVAL && (
                <Choice
                  label="Unit of the interval"
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
          Save
        </Main>
        <Side onClick={onDone}>Leave it as it was</Side>
        {known && <Side onClick={() => keep(undefined)}>Forget the file</Side>}
      </Flex>
    </Box>
  );
}

import { Box, Field, Flex, Input, NativeSelect, Text, Textarea } from "@chakra-ui/react";
import { useState } from "react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { Leftover, Matches } from "../api/schema";
import { api, data } from "../api/client";
import { Quiet, Side } from "../shared/parts";
import { useSettled } from "../shared/useSettled";
import { count } from "../shared/words";
import { KINDS, type OwnFilesForm, type ProfileForm } from "./profile";

function Line(props: {
  label: string;
  hint: string;
  value: string;
  mono?: boolean;
  w?: string;
  onChange: (value: string) => void;
}) {
  return (
    <Field.Root mb="3" w={props.w ? "auto" : "100%"}>
      <Field.Label fontSize="13px">{props.label}</Field.Label>
      <Input
        size="sm"
        w={props.w ?? "100%"}
        borderColor="hairline"
        fontFamily={props.mono ? "mono" : "body"}
        fontSize="13px"
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
      />
      <Field.HelperText fontSize="12px" color="muted">
        {props.hint}
      </Field.HelperText>
    </Field.Root>
  );
}

/** Where a sheet is tried while it is written. */
interface Where {
  folder: string;
  rule: string[];
}

function useMatches(at: Where | undefined, leftovers: Leftover[]) {
  const settled = useSettled(leftovers);
  const whole = settled.every((l) => l.folder.trim() && /\{\w+\}/.test(l.pattern));
  return useQuery({
    queryKey: ["matches", at, settled],
    queryFn: () =>
      data(
        api.POST("/api/programs/matches", {
          body: { folder: at?.folder ?? "", rule: at?.rule ?? [], leftovers: settled },
        }),
      ),
    enabled: at !== undefined && settled.length > 0 && whole,
    retry: false,
    placeholderData: keepPreviousData,
  });
}

/** Names of copies go in, the pattern they were made by comes out. */
function PasteNames({ onTake }: { onTake: (pattern: string) => void }) {
  const [text, setText] = useState<string>();
  const names = useSettled(text ?? "")
    .split("\n")
    .map((n) => n.trim())
    .filter(Boolean);
  const guesses = useQuery({
    queryKey: ["names", names],
    queryFn: () => data(api.POST("/api/programs/names", { body: { names } })),
    enabled: names.length > 0,
    retry: false,
  });
  if (text === undefined) {
    return (
      <Side size="xs" mr="2" onClick={() => setText("")}>
        propose a pattern from names
      </Side>
    );
  }
  return (
    <Box my="2">
      <Textarea
        size="sm"
        rows={3}
        fontFamily="mono"
        fontSize="12px"
        borderColor="hairline"
        aria-label="Names of copies, one a line"
        placeholder="paste two or three file names of copies, one a line"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      {names.length > 0 && guesses.data?.length === 0 && (
        <Text fontSize="12px" color="muted">
          None of these names holds the name of a document that is known.
        </Text>
      )}
      {guesses.data?.slice(0, 3).map((g) => (
        <Flex key={g.document + g.pattern} gap="2" fontSize="13px" align="center" mt="1">
          <Text fontFamily="mono">{g.pattern}</Text>
          <Text color="muted">
            fits {g.fits} of {names.length}, for {g.document}
          </Text>
          <Quiet
            onClick={() => {
              onTake(g.pattern);
              setText(undefined);
            }}
          >
            use it
          </Quiet>
        </Flex>
      ))}
    </Box>
  );
}

/** What a kind of leftover finds on disk now. */
function Finds({ matches }: { matches: Matches }) {
  return (
    <Text fontSize="12px" color={matches.problem ? "caution" : "muted"} pl="1">
      {matches.problem ??
        (matches.count === 0
          ? "finds nothing now"
          : `finds ${count(matches.count, "file")} now: ${matches.files.join(", ")}`)}
    </Text>
  );
}

/** Where templates, presets and the like lie. */
function OwnFiles({
  value,
  onChange,
}: {
  value: OwnFilesForm[];
  onChange: (value: OwnFilesForm[]) => void;
}) {
  const change = (index: number, changes: Partial<OwnFilesForm>) =>
    onChange(value.map((o, i) => (i === index ? { ...o, ...changes } : o)));
  return (
    <Box role="group" aria-label="Its own files" mt="4">
      <Text fontSize="13px" fontWeight="600">
        Its own files
      </Text>
      <Text fontSize="12px" color="muted" mb="1">
        Templates, tool presets, libraries, arrangements of windows, preferences: no documents, and
        work all the same. Names with * are parted by spaces.
      </Text>
      {value.map((o, i) => (
        <Flex key={i} gap="2" align="center" mb="1.5" wrap="wrap">
          <Input
            size="sm"
            w="260px"
            fontFamily="mono"
            borderColor="hairline"
            aria-label={`Folder of its own files ${i + 1}`}
            placeholder="~/.config/program/*"
            value={o.folder}
            onChange={(e) => change(i, { folder: e.target.value })}
          />
          <Input
            size="sm"
            w="240px"
            fontFamily="mono"
            borderColor="hairline"
            aria-label={`Names of its own files ${i + 1}`}
            placeholder="*.preset *.layout"
            value={o.names}
            onChange={(e) => change(i, { names: e.target.value })}
          />
          <Quiet onClick={() => onChange(value.filter((_, j) => j !== i))}>remove</Quiet>
        </Flex>
      ))}
      <Side size="xs" onClick={() => onChange([...value, { folder: "", names: "" }])}>
        add a folder of its own files
      </Side>
    </Box>
  );
}

/** What is known of a program: its process, its session sign, what it leaves and where. */
export function ProfileFields({
  form,
  onChange,
  at,
}: {
  form: ProfileForm;
  onChange: (form: ProfileForm) => void;
  at?: Where | undefined;
}) {
  const matches = useMatches(at, form.leftovers);
  const set = (changes: Partial<ProfileForm>) => onChange({ ...form, ...changes });
  const leftover = (index: number, changes: Partial<ProfileForm["leftovers"][number]>) =>
    set({ leftovers: form.leftovers.map((l, i) => (i === index ? { ...l, ...changes } : l)) });
  return (
    <Box maxW="720px">
      <Line
        label="Program"
        hint="as you call it"
        value={form.name}
        onChange={(name) => set({ name })}
      />
      <Line
        label="Its process"
        hint="words that stand in its command line; without them a crash can only be told by its lock file"
        mono
        value={form.process}
        onChange={(process) => set({ process })}
      />
      <Line
        label="Lock file"
        hint="a file it keeps beside an open document, such as .{stem}.open"
        mono
        value={form.sessionSign}
        onChange={(sessionSign) => set({ sessionSign })}
      />
      <Line
        label="What stands in the lock file"
        hint="such as {user}@{host}:{pid}; empty to take numbers and names for what they look like"
        mono
        value={form.lockText}
        onChange={(lockText) => set({ lockText })}
      />
      <Flex gap="3" wrap="wrap">
        <Line
          label="Crash log in"
          hint="as seen from the document, or ~/…"
          mono
          w="220px"
          value={form.logFolder}
          onChange={(logFolder) => set({ logFolder })}
        />
        <Line
          label="called"
          hint="such as session-{n}.log"
          mono
          w="200px"
          value={form.logPattern}
          onChange={(logPattern) => set({ logPattern })}
        />
        <Line
          label="says of a crash"
          hint="empty if there being one says enough"
          w="220px"
          value={form.logWords}
          onChange={(logWords) => set({ logWords })}
        />
      </Flex>
      <Line
        label="Writes a copy of its own every … minutes"
        hint="leave empty if you do not know; the worst case is then unknown"
        w="100px"
        value={form.everyMinutes}
        onChange={(everyMinutes) => set({ everyMinutes })}
      />
      <Text fontSize="13px" fontWeight="600">
        What it leaves behind
      </Text>
      <Text fontSize="12px" color="muted" mb="1">
        Holes: {"{stem} {ext} {n} {time} {step} {any}"}. A folder without / at its start is seen
        from the document; ~, $NAME, * and {"{stem}"} may stand in it.
      </Text>
      {form.leftovers.map((l, i) => (
        <Box key={i} mb="1.5">
          <Flex gap="2" align="center">
            <NativeSelect.Root size="sm" w="240px">
              <NativeSelect.Field
                aria-label={`Kind of leftover ${i + 1}`}
                borderColor="hairline"
                value={l.kind}
                onChange={(e) => leftover(i, { kind: e.target.value as typeof l.kind })}
              >
                {KINDS.map(([kind, words]) => (
                  <option key={kind} value={kind}>
                    {words}
                  </option>
                ))}
              </NativeSelect.Field>
              <NativeSelect.Indicator />
            </NativeSelect.Root>
            <Input
              size="sm"
              w="150px"
              fontFamily="mono"
              borderColor="hairline"
              aria-label={`Folder of leftover ${i + 1}`}
              value={l.folder}
              onChange={(e) => leftover(i, { folder: e.target.value })}
            />
            <Input
              size="sm"
              w="200px"
              fontFamily="mono"
              borderColor="hairline"
              aria-label={`Name pattern of leftover ${i + 1}`}
              value={l.pattern}
              onChange={(e) => leftover(i, { pattern: e.target.value })}
            />
            <Quiet onClick={() => set({ leftovers: form.leftovers.filter((_, j) => j !== i) })}>
              remove
            </Quiet>
          </Flex>
          {matches.data?.[i] && <Finds matches={matches.data[i]} />}
        </Box>
      ))}
      <PasteNames
        onTake={(pattern) =>
          set({ leftovers: [...form.leftovers, { kind: "AUTOSAVE", folder: ".", pattern }] })
        }
      />
      <Side
        size="xs"
        onClick={() =>
          set({ leftovers: [...form.leftovers, { kind: "AUTOSAVE", folder: ".", pattern: "" }] })
        }
      >
        add a kind of leftover
      </Side>
      <OwnFiles value={form.ownFiles} onChange={(ownFiles) => set({ ownFiles })} />
    </Box>
  );
}

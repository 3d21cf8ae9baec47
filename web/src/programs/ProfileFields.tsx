import { Box, Field, Flex, Input, NativeSelect, Text, Textarea } from "@chakra-ui/react";
import { useState } from "react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { Leftover, Matches } from "../api/schema";
import { api, data } from "../api/client";
import { Quiet, Side } from "../shared/parts";
import { useSettled } from "../shared/useSettled";
import { count } from "../shared/words";
import { KINDS, type OwnFilesForm, type ProfileForm } from "./profile";
import { phrase } from "../words/phrase";

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
        {phrase("programs.proposeAPatternFromNames")}
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
        aria-label={phrase("programs.namesOfCopiesOneALine")}
        placeholder={phrase("programs.pasteTwoOrThreeFileNames")}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      {names.length > 0 && guesses.data?.length === 0 && (
        <Text fontSize="12px" color="muted">
          {phrase("programs.noneOfTheseNamesHoldsThe")}
        </Text>
      )}
      {guesses.data?.slice(0, 3).map((g) => (
        <Flex key={g.document + g.pattern} gap="2" fontSize="13px" align="center" mt="1">
          <Text fontFamily="mono">{g.pattern}</Text>
          <Text color="muted">
            {phrase("programs.fitsOfFor", {
              fits: g.fits,
              names: names.length,
              document: g.document,
            })}
          </Text>
          <Quiet
            onClick={() => {
              onTake(g.pattern);
              setText(undefined);
            }}
          >
            {phrase("programs.useIt")}
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
          ? phrase("programs.findsNothingNow")
          : phrase("programs.findsNow", {
              files: count(matches.count, "file"),
              files2: matches.files.join(", "),
            }))}
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
    <Box role="group" aria-label={phrase("programs.itsOwnFiles")} mt="4">
      <Text fontSize="13px" fontWeight="600">
        {phrase("programs.itsOwnFiles")}
      </Text>
      <Text fontSize="12px" color="muted" mb="1">
        {phrase("programs.templatesToolPresetsLibrariesArrangementsOf")}
      </Text>
      {value.map((o, i) => (
        <Flex key={i} gap="2" align="center" mb="1.5" wrap="wrap">
          <Input
            size="sm"
            w="260px"
            fontFamily="mono"
            borderColor="hairline"
            aria-label={phrase("programs.folderOfItsOwnFiles", { i: i + 1 })}
            placeholder="~/.config/program/*"
            value={o.folder}
            onChange={(e) => change(i, { folder: e.target.value })}
          />
          <Input
            size="sm"
            w="240px"
            fontFamily="mono"
            borderColor="hairline"
            aria-label={phrase("programs.namesOfItsOwnFiles", { i: i + 1 })}
            placeholder="*.preset *.layout"
            value={o.names}
            onChange={(e) => change(i, { names: e.target.value })}
          />
          <Quiet onClick={() => onChange(value.filter((_, j) => j !== i))}>
            {phrase("programs.remove")}
          </Quiet>
        </Flex>
      ))}
      <Side size="xs" onClick={() => onChange([...value, { folder: "", names: "" }])}>
        {phrase("programs.addAFolderOfItsOwn")}
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
        label={phrase("programs.program")}
        hint={phrase("programs.asYouCallIt")}
        value={form.name}
        onChange={(name) => set({ name })}
      />
      <Line
        label={phrase("programs.itsProcess")}
        hint={phrase("programs.wordsThatStandInItsCommand")}
        mono
        value={form.process}
        onChange={(process) => set({ process })}
      />
      <Line
        label={phrase("programs.lockFile")}
        hint={phrase("programs.aFileItKeepsBesideAn")}
        mono
        value={form.sessionSign}
        onChange={(sessionSign) => set({ sessionSign })}
      />
      <Line
        label={phrase("programs.whatStandsInTheLockFile")}
        hint={phrase("programs.suchAsEmptyToTakeNumbers")}
        mono
        value={form.lockText}
        onChange={(lockText) => set({ lockText })}
      />
      <Flex gap="3" wrap="wrap">
        <Line
          label={phrase("programs.crashLogIn")}
          hint={phrase("programs.asSeenFromTheDocumentOr")}
          mono
          w="220px"
          value={form.logFolder}
          onChange={(logFolder) => set({ logFolder })}
        />
        <Line
          label={phrase("programs.called")}
          hint={phrase("programs.suchAsSessionLog")}
          mono
          w="200px"
          value={form.logPattern}
          onChange={(logPattern) => set({ logPattern })}
        />
        <Line
          label={phrase("programs.saysOfACrash")}
          hint={phrase("programs.emptyIfThereBeingOneSays")}
          w="220px"
          value={form.logWords}
          onChange={(logWords) => set({ logWords })}
        />
      </Flex>
      <Line
        label={phrase("programs.writesACopyOfItsOwn")}
        hint={phrase("programs.leaveEmptyIfYouDoNot")}
        w="100px"
        value={form.everyMinutes}
        onChange={(everyMinutes) => set({ everyMinutes })}
      />
      <Text fontSize="13px" fontWeight="600">
        {phrase("programs.whatItLeavesBehind")}
      </Text>
      <Text fontSize="12px" color="muted" mb="1">
        {phrase("programs.holesAFolderWithoutAtIts")}
      </Text>
      {form.leftovers.map((l, i) => (
        <Box key={i} mb="1.5">
          <Flex gap="2" align="center">
            <NativeSelect.Root size="sm" w="240px">
              <NativeSelect.Field
                aria-label={phrase("programs.kindOfLeftover", { i: i + 1 })}
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
              aria-label={phrase("programs.folderOfLeftover", { i: i + 1 })}
              value={l.folder}
              onChange={(e) => leftover(i, { folder: e.target.value })}
            />
            <Input
              size="sm"
              w="200px"
              fontFamily="mono"
              borderColor="hairline"
              aria-label={phrase("programs.namePatternOfLeftover", { i: i + 1 })}
              value={l.pattern}
              onChange={(e) => leftover(i, { pattern: e.target.value })}
            />
            <Quiet onClick={() => set({ leftovers: form.leftovers.filter((_, j) => j !== i) })}>
              {phrase("programs.remove")}
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
        {phrase("programs.addAKindOfLeftover")}
      </Side>
      <OwnFiles value={form.ownFiles} onChange={(ownFiles) => set({ ownFiles })} />
    </Box>
  );
}

import { Box, Field, Flex, Input, NativeSelect, Text } from "@chakra-ui/react";
import { useSearchParams } from "react-router";
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import type { Look, Plan, Project } from "../api/schema";
import { api, data, outcome } from "../api/client";
import { useChange, useOverview, usePlanDefaults, useSession } from "../api/queries";
import { useGo } from "../app/where";
import { NO_SHEET, type SheetForm, toForm, toSheet } from "../programs/sheet";
import { SheetFields } from "../programs/SheetFields";
import { Failure, Main, Notice, PageHead, Quiet, Side } from "../shared/parts";
import { Fitness } from "../shared/Fitness";
import { useSettled } from "../shared/useSettled";
import { age, count, seconds, size } from "../shared/words";
import { Clues, Happenings, Steps } from "./Clues";
import { accepted, useWatching } from "./watching";
import { FolderPicker } from "./FolderPicker";

function Step(props: { n: number; title: string; children: ReactNode }) {
  return (
    <Box px="4" py="3">
      <Text as="h2" fontSize="16px" fontWeight="650" mb="2">
        <Text as="span" color="muted" mr="2">
          {props.n}
        </Text>
        {props.title}
      </Text>
      {props.children}
    </Box>
  );
}

function Found({ look }: { look: Look }) {
  const [hidden, setHidden] = useState(false);
  return (
    <Box fontSize="13px" mt="2" role="status">
      <Text>
        {count(look.documents.length, "document")} found
        {look.documents.length > 0 && `: ${look.documents.slice(0, 6).join(", ")}`}
        {look.documents.length > 6 && ` and ${look.documents.length - 6} more`}.
        {look.backups > 0 &&
          ` ${count(look.backups, "file")} beside ${look.backups === 1 ? "looks" : "look"} like a backup of them.`}
      </Text>
      {look.hidden.length > 0 && (
        <Text color="muted">
          {count(look.hidden.length, "hidden file")}{" "}
          <Quiet onClick={() => setHidden(!hidden)}>{hidden ? "leave them" : "show"}</Quiet>
        </Text>
      )}
      {hidden && (
        <Box fontFamily="mono" fontSize="12px" color="muted" maxH="120px" overflow="auto">
          {look.hidden.map((h) => (
            <Text key={h}>{h}</Text>
          ))}
        </Box>
      )}
      {look.unaddressable > 0 && (
        <Text color="caution">
          {count(look.unaddressable, "file")} cannot be addressed: the name is no readable text.
        </Text>
      )}
      {look.unreadable > 0 && (
        <Text color="caution">{count(look.unreadable, "folder")} could not be looked into.</Text>
      )}
    </Box>
  );
}

/** What the plan of a new project comes to, before it is one. */
function PlanLine({ plan, bytes }: { plan: Plan; bytes: number }) {
  const every = seconds(plan.interval);
  const reminder = seconds(plan.reminder);
  return (
    <Text fontSize="13px" color="muted" my="3">
      It begins with a copy at most {age(every * 1000)} after a change, the newest{" "}
      {plan.keep.newest} kept
      {bytes > 0 && `: about ${size(bytes * plan.keep.newest)} at ${size(bytes)} each`}.
      {reminder > 0 &&
        ` The program was not seen to write by itself: you are reminded after ${age(reminder * 1000)} without a save.`}{" "}
      The plan page shows what that costs and lets you change it.
    </Text>
  );
}

/** One page: where the work lies, what its program does, where copies go. */
export function Start() {
  const session = useSession();
  const { go } = useGo();
  const [search] = useSearchParams();
  const [folder, setFolder] = useState(search.get("folder") ?? "");
  const [name, setName] = useState("");
  const [ruleSaid, setRule] = useState<string>();
  const [sheetSaid, setSheet] = useState<SheetForm>();
  const [document, setDocument] = useState("");
  const [refused, setRefused] = useState<ReadonlySet<string>>(new Set());
  const defaults = usePlanDefaults();
  const [chosen, setRecovery] = useState<string>();
  const usual = useOverview().data?.projects[0]?.recovery;
  const settled = useSettled(folder);
  const exists = useQuery({
    queryKey: ["folders", settled],
    queryFn: () => data(api.GET("/api/folders", { params: { query: { path: settled } } })),
    enabled: settled.startsWith("/"),
    retry: false,
  });
  const watching = useWatching(exists.isSuccess ? settled : "", document);
  const proposed = watching.view?.proposed;
  const recovery = chosen ?? usual ?? proposed?.recovery ?? "";
  const rule = ruleSaid ?? proposed?.rule.join(" ") ?? "";
  const globs = rule.split(/[ ,]+/).filter(Boolean);
  const sheet = sheetSaid ?? (proposed ? toForm(accepted(proposed, refused)) : NO_SHEET);
  const plan = proposed?.plan ?? defaults.data?.usual;

  const look = useQuery({
    queryKey: ["look", settled, rule],
    queryFn: () => data(api.POST("/api/projects/look", { body: { folder: settled, rule: globs } })),
    enabled: exists.isSuccess && globs.length > 0,
    retry: false,
  });
  const check = useQuery({
    queryKey: ["check", recovery, settled],
    queryFn: () =>
      data(
        api.POST("/api/places/check", {
          body: { path: recovery, role: "RECOVERY", work: settled },
        }),
      ),
    enabled: recovery.startsWith("/") && exists.isSuccess,
    retry: false,
  });
  const create = useChange(() =>
    outcome<Project>(
      api.POST("/api/projects", {
        body: {
          name: name.trim() || folder.slice(folder.lastIndexOf("/") + 1),
          folder,
          rule: globs,
          program: toSheet(sheet),
          recovery,
          plan: plan as Plan,
        },
      }),
    ),
  );
  const adopt = useChange((path: string) =>
    data(api.POST("/api/projects/adopt", { body: { recovery: path } })),
  );
  const ready =
    settled === folder && look.isSuccess && plan !== undefined && check.data?.faults.length === 0;
  const refuse = (key: string, no: boolean) => {
    const next = new Set(refused);
    if (no) next.add(key);
    else next.delete(key);
    setRefused(next);
  };
  return (
    <Box>
      <PageHead
        title="Where does your work lie?"
        under={`Kavrin may use folders under ${session.data?.roots.join(", ") ?? ""}. Others are allowed with ./kavrin start --root FOLDER.`}
      />
      <Flex align="stretch">
        <Box w="430px" flexShrink="0" borderRight="1px solid" borderColor="hairline">
          <Step n={1} title="The folder with your files">
            <FolderPicker
              label="Folder with your files"
              value={folder}
              onChange={(path) => {
                setFolder(path);
                setDocument("");
                setRefused(new Set());
              }}
            />
            <Flex gap="3" mt="3">
              <Field.Root>
                <Field.Label fontSize="13px">Name of the project</Field.Label>
                <Input
                  size="sm"
                  borderColor="hairline"
                  value={name}
                  maxLength={120}
                  onChange={(e) => setName(e.target.value)}
                  placeholder={folder.slice(folder.lastIndexOf("/") + 1)}
                />
              </Field.Root>
              <Field.Root>
                <Field.Label fontSize="13px">These are documents</Field.Label>
                <Input
                  size="sm"
                  fontFamily="mono"
                  borderColor="hairline"
                  value={rule}
                  placeholder="*.ending"
                  onChange={(e) => setRule(e.target.value)}
                />
              </Field.Root>
            </Flex>
            <Text fontSize="12px" color="muted" mt="1">
              Names with * for anything; new ones join by themselves.
            </Text>
            <Failure error={exists.error ?? look.error} />
            {look.data && <Found look={look.data} />}
          </Step>
          <Box borderTop="1px solid" borderColor="hairline" />
          <Step n={3} title="Where copies go">
            <FolderPicker label="Recovery folder" value={recovery} onChange={setRecovery} />
            <Failure error={check.error} />
            {check.data && (
              <Box fontSize="13px" mt="2" role="status">
                <Fitness check={check.data} />
                {check.data.holdsCopies && (
                  <Notice tone="fir">
                    Copies lie there already.{" "}
                    <Side
                      size="xs"
                      loading={adopt.isPending}
                      onClick={() => adopt.mutate(recovery, { onSuccess: () => go("/overview") })}
                    >
                      Take in its projects
                    </Side>
                  </Notice>
                )}
                <Failure error={adopt.error} />
              </Box>
            )}
            {plan && <PlanLine plan={plan} bytes={proposed?.size ?? 0} />}
            <Failure error={create.error} />
            <Main
              disabled={!ready}
              loading={create.isPending}
              onClick={() =>
                void create.mutateAsync(undefined).then(
                  () => go("/plan"),
                  () => undefined,
                )
              }
            >
              Keep copies from now on
            </Main>
          </Step>
        </Box>
        <Box flex="1" minW="0">
          <Step n={2} title="What its program does">
            {!watching.view && !sheetSaid && (
              <Text fontSize="13px" color="muted">
                Say where the work lies. Kavrin then watches what the program does to files there
                while you use it, and proposes the rest. It reads names, sizes and times only.
              </Text>
            )}
            <Failure error={watching.error} />
            {watching.view && !sheetSaid && (
              <>
                <Steps view={watching.view} />
                {(proposed?.documents.length ?? 0) > 1 && (
                  <Flex gap="2" align="center" mt="2" fontSize="13px">
                    You work on
                    <NativeSelect.Root size="xs" w="260px">
                      <NativeSelect.Field
                        aria-label="The file you work on"
                        borderColor="hairline"
                        value={document || proposed?.document}
                        onChange={(e) => setDocument(e.target.value)}
                      >
                        {proposed?.documents.map((d) => (
                          <option key={d} value={d}>
                            {d}
                          </option>
                        ))}
                      </NativeSelect.Field>
                      <NativeSelect.Indicator />
                    </NativeSelect.Root>
                  </Flex>
                )}
                <Clues clues={proposed?.clues ?? []} refused={refused} onRefuse={refuse} />
                <Happenings view={watching.view} />
              </>
            )}
            {sheetSaid ? (
              <>
                <SheetFields
                  form={sheetSaid}
                  onChange={setSheet}
                  at={exists.isSuccess ? { folder: settled, rule: globs } : undefined}
                />
                <Side size="xs" mt="3" onClick={() => setSheet(undefined)}>
                  Back to what was seen
                </Side>
              </>
            ) : (
              <Side size="xs" mt="3" onClick={() => setSheet(sheet)}>
                Correct it by hand
              </Side>
            )}
          </Step>
        </Box>
      </Flex>
    </Box>
  );
}

import { Box, Field, Flex, Input, Text } from "@chakra-ui/react";
import { useSearchParams } from "react-router";
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import type { Look, Plan, Project } from "../api/schema";
import { api, data, outcome } from "../api/client";
import { useChange, usePlanDefaults, useSession } from "../api/queries";
import { useGo } from "../app/where";
import { toProfile } from "../programs/profile";
import { Failure, Main, Notice, PageHead, Quiet, Side } from "../shared/parts";
import { Fitness } from "../shared/Fitness";
import { useSettled } from "../shared/useSettled";
import { age, count, seconds, size } from "../shared/words";
import { useProfile } from "./useProfile";
import { BackupFolder, useBackupFolders } from "./BackupFolder";
import { WhatItDoes } from "./WhatItDoes";
import { FolderPicker } from "./FolderPicker";
import { phrase } from "../words/phrase";

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
        {phrase("start.found", {
          documents: count(look.documents.length, "document"),
          names: look.documents.length > 0 && `: ${look.documents.slice(0, 6).join(", ")}`,
          more:
            look.documents.length > 6 &&
            ` ${phrase("start.andMore", { documents: look.documents.length - 6 })}`,
          backups:
            look.backups > 0 &&
            ` ${phrase("start.besideLikeABackupOfThem", { files: count(look.backups, "file"), backups: look.backups })}`,
        })}
      </Text>
      {look.hidden.length > 0 && (
        <Text color="muted">
          {count(look.hidden.length, "hidden file")}{" "}
          <Quiet onClick={() => setHidden(!hidden)}>
            {hidden ? phrase("start.leaveThem") : phrase("start.show")}
          </Quiet>
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
          {phrase("start.cannotBeAddressedTheNameIs", { files: count(look.unaddressable, "file") })}
        </Text>
      )}
      {look.unreadable > 0 && (
        <Text color="caution">
          {phrase("start.couldNotBeLookedInto", { folders: count(look.unreadable, "folder") })}
        </Text>
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
      {phrase("start.itBeginsWithABackupAt", {
        age: age(every * 1000),
        newest: plan.keep.newest,
        room:
          bytes > 0 &&
          phrase("start.aboutAtEach", { size: size(bytes * plan.keep.newest), size2: size(bytes) }),
        reminder:
          reminder > 0 &&
          ` ${phrase("start.theProgramWasNotSeenTo", { age: age(reminder * 1000) })}`,
      })}
    </Text>
  );
}

/** One page: where the work lies, where backups go, and what its program does. */
export function Start() {
  const session = useSession();
  const { goOn } = useGo();
  const [search] = useSearchParams();
  const [folder, setFolder] = useState(search.get("folder") ?? "");
  const [name, setName] = useState("");
  const [ruleSaid, setRule] = useState<string>();
  const defaults = usePlanDefaults();
  const [chosen, setRecovery] = useState<string>();
  const settled = useSettled(folder);
  const exists = useQuery({
    queryKey: ["folders", settled],
    queryFn: () => data(api.GET("/api/browse", { params: { query: { path: settled } } })),
    enabled: settled.startsWith("/"),
    retry: false,
  });
  const there = settled !== "" && exists.data !== undefined;
  const backups = useBackupFolders(there ? settled : "");
  const profile = useProfile(there ? settled : "");
  const { proposed } = profile;
  const recovery = chosen ?? backups.data?.[0]?.path ?? "";
  const rule = ruleSaid ?? proposed?.rule.join(" ") ?? "";
  const globs = rule.split(/[ ,]+/).filter(Boolean);
  const plan = proposed?.plan ?? defaults.data?.usual;

  const look = useQuery({
    queryKey: ["look", settled, rule],
    queryFn: () => data(api.POST("/api/projects/look", { body: { folder: settled, rule: globs } })),
    enabled: there && globs.length > 0,
    retry: false,
  });
  const check = useQuery({
    queryKey: ["check", recovery, settled],
    queryFn: () =>
      data(
        api.POST("/api/folders/check", {
          body: { path: recovery, role: "RECOVERY", work: settled },
        }),
      ),
    enabled: recovery.startsWith("/") && there,
    retry: false,
  });
  const create = useChange(() =>
    outcome<Project>(
      api.POST("/api/projects", {
        body: {
          name: name.trim() || folder.slice(folder.lastIndexOf("/") + 1),
          folder,
          rule: globs,
          program: toProfile(profile.form),
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
  const startBackingUp = () =>
    void create.mutateAsync(undefined).then(
      () => goOn("/plan"),
      () => undefined,
    );
  return (
    <Box>
      <PageHead
        title={phrase("start.whereDoesYourWorkLie")}
        under={phrase("start.kavrinMayUseFoldersUnderOthers", {
          roots: session.data?.roots.join(", ") ?? "",
        })}
      />
      <Flex align="stretch" direction={{ base: "column", lg: "row" }}>
        <Box
          w={{ base: "100%", lg: "460px" }}
          flexShrink="0"
          borderRight={{ lg: "1px solid" }}
          borderColor={{ lg: "hairline" }}
        >
          <Step n={1} title={phrase("start.theFolderWithYourFiles")}>
            <FolderPicker
              open
              label={phrase("start.folderWithYourFiles")}
              value={folder}
              onChange={(path) => {
                setFolder(path);
                profile.forget();
              }}
            />
            <Failure error={folder.startsWith("/") ? look.error : null} />
            {look.data && <Found look={look.data} />}
            {there && (
              <Flex gap="3" mt="2">
                <Field.Root>
                  <Field.Label fontSize="13px">{phrase("start.theseAreDocuments")}</Field.Label>
                  <Input
                    size="sm"
                    fontFamily="mono"
                    borderColor="hairline"
                    value={rule}
                    placeholder="*.ending"
                    onChange={(e) => setRule(e.target.value)}
                  />
                  <Field.HelperText fontSize="12px" color="muted">
                    {phrase("start.standsForAnything")}
                  </Field.HelperText>
                </Field.Root>
                <Field.Root>
                  <Field.Label fontSize="13px">{phrase("start.nameOfTheProject")}</Field.Label>
                  <Input
                    size="sm"
                    borderColor="hairline"
                    value={name}
                    maxLength={120}
                    onChange={(e) => setName(e.target.value)}
                    placeholder={folder.slice(folder.lastIndexOf("/") + 1)}
                  />
                </Field.Root>
              </Flex>
            )}
          </Step>
          {there && (
            <Box borderTop="1px solid" borderColor="hairline">
              <Step n={2} title={phrase("start.whereBackupsGo")}>
                <BackupFolder work={settled} value={recovery} onChange={setRecovery} />
                <Failure error={check.error} />
                {check.data && (
                  <Box fontSize="13px" mt="2" role="status">
                    <Fitness
                      check={check.data}
                      brief={backups.data?.some((b) => b.path === recovery)}
                    />
                    {check.data.holdsCopies && (
                      <Notice tone="fir">
                        {phrase("start.backupsLieThereAlready")}{" "}
                        <Side
                          size="xs"
                          loading={adopt.isPending}
                          onClick={() =>
                            adopt.mutate(recovery, { onSuccess: () => goOn("/overview") })
                          }
                        >
                          {phrase("start.openItsProjects")}
                        </Side>
                      </Notice>
                    )}
                    <Failure error={adopt.error} />
                  </Box>
                )}
                {plan && <PlanLine plan={plan} bytes={proposed?.size ?? 0} />}
                <Failure error={create.error} />
                <Main disabled={!ready} loading={create.isPending} onClick={startBackingUp}>
                  {phrase("start.startBackingUp")}
                </Main>
              </Step>
            </Box>
          )}
        </Box>
        <Box flex="1" minW="0">
          <Step n={3} title={phrase("start.whatItsProgramDoesCanWait")}>
            <WhatItDoes
              profile={profile}
              at={there ? { folder: settled, rule: globs } : undefined}
            />
          </Step>
        </Box>
      </Flex>
    </Box>
  );
}

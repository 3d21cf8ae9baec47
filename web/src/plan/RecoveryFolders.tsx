import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, data } from "../api/client";
import type { PlanAnswer, Project } from "../api/schema";
import { useChange } from "../api/queries";
import { useGo } from "../app/where";
import { Fitness } from "../shared/Fitness";
import { Failure, Main, PathText, Quiet, Side } from "../shared/parts";
import { count, size } from "../shared/words";
import { FolderPicker } from "../start/FolderPicker";
import { phrase } from "../words/phrase";

type Recovery = Project["recoveries"][number];

function Standing({ folder }: { folder: Recovery }) {
  if (!folder.here) {
    return (
      <Text as="span" color="loss">
        {phrase("plan.awayNoBackupsThereUntilIt")}
      </Text>
    );
  }
  if (folder.leaving) {
    return (
      <Text as="span" color="caution">
        {phrase("plan.itsBackupsAreBeingMovedTo", { copies: folder.copies })}
      </Text>
    );
  }
  if (folder.behind !== undefined) {
    return (
      <Text as="span" color="caution">
        {phrase("plan.beingCaughtUp", { behind: folder.behind })}
      </Text>
    );
  }
  return <>{count(folder.copies, "backup")}</>;
}

/** Where the backups of a project go: each folder gets every one. */
export function RecoveryFolders({
  project,
  check,
}: {
  project: Project;
  check: PlanAnswer["recovery"] | undefined;
}) {
  const [adding, setAdding] = useState(false);
  const { go } = useGo();
  const path = { params: { path: { id: project.id } } };
  const leave = useChange((recovery: string) =>
    data(api.POST("/api/projects/{id}/recoveries/leave", { ...path, body: { recovery } })),
  );
  const stay = useChange(() => data(api.POST("/api/projects/{id}/recoveries/stay", path)));
  const several = project.recoveries.length > 1;
  return (
    <Box
      role="group"
      aria-label={several ? phrase("plan.backupFolders") : phrase("plan.backupFolder")}
    >
      {project.recoveries.map((folder, i) => (
        <Box key={folder.path} w="100%" mb="1">
          <PathText path={folder.path} size="13px" />
          <Flex gap="2" fontSize="12px" color="muted" align="center" wrap="wrap">
            <Standing folder={folder} />
            {i === 0 && check && (
              <span>
                {phrase("plan.free2", {
                  disk: check.disk || phrase("plan.unknownDisk"),
                  size: size(check.free),
                })}
              </span>
            )}
            {folder.leaving && (
              <Quiet needs="PLAN" loading={stay.isPending} onClick={() => stay.mutate(undefined)}>
                {phrase("plan.stopMoving")}
              </Quiet>
            )}
            {several && !project.recoveries.some((f) => f.leaving) && (
              <Quiet
                needs="PLAN"
                loading={leave.isPending}
                onClick={() => leave.mutate(folder.path)}
                aria-label={phrase("plan.moveTheBackupsOutOf", { path: folder.path })}
              >
                {phrase("plan.moveTheBackupsOut")}
              </Quiet>
            )}
          </Flex>
          {i === 0 &&
            [...(check?.faults ?? []), ...(check?.cautions ?? [])].map((c) => (
              <Text key={c} color="caution" fontSize="12px">
                ▲ {c}
              </Text>
            ))}
        </Box>
      ))}
      <Failure error={leave.error ?? stay.error} />
      {adding ? (
        <AddFolder project={project} onDone={() => setAdding(false)} />
      ) : (
        <Flex gap="2" align="center">
          <Side needs="PLAN" over="everything" size="xs" onClick={() => setAdding(true)}>
            {phrase("plan.addAFolder")}
          </Side>
          <Quiet onClick={() => go("/elsewhere")}>{phrase("plan.andElsewhere")}</Quiet>
        </Flex>
      )}
    </Box>
  );
}

function AddFolder({ project, onDone }: { project: Project; onDone: () => void }) {
  const [folder, setFolder] = useState("");
  const check = useQuery({
    queryKey: ["check", folder, project.folder],
    queryFn: () =>
      data(
        api.POST("/api/folders/check", {
          body: { path: folder, role: "RECOVERY", work: project.folder },
        }),
      ),
    enabled: folder.startsWith("/"),
    retry: false,
  });
  const add = useChange(() =>
    data(
      api.POST("/api/projects/{id}/recoveries", {
        params: { path: { id: project.id } },
        body: { recovery: folder },
      }),
    ),
  );
  return (
    <Box w="100%">
      <FolderPicker
        label={phrase("plan.anotherBackupFolder")}
        value={folder}
        onChange={setFolder}
      />
      {check.data && (
        <Box fontSize="12px" mt="1" role="status">
          <Fitness check={check.data}> {phrase("plan.everythingThePlanKeepsIsBrought")}</Fitness>
        </Box>
      )}
      <Failure error={check.error ?? add.error} />
      <Flex gap="2" mt="2">
        <Main
          size="xs"
          disabled={check.data?.faults.length !== 0}
          loading={add.isPending}
          onClick={() => add.mutate(undefined, { onSuccess: onDone })}
        >
          {phrase("plan.backUpThereToo")}
        </Main>
        <Side size="xs" onClick={onDone}>
          {phrase("common.cancel")}
        </Side>
      </Flex>
    </Box>
  );
}

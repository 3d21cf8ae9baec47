import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Project, SharedSheet } from "../api/schema";
import { useProfileDifference, useImportProfile } from "../api/finding";
import { Tick } from "../shared/fields";
import { Failure, Main, Side } from "../shared/parts";
import { FileButton } from "../shared/FileButton";
import { phrase } from "../words/phrase";

/** Shows what a sheet from elsewhere changes, and asks for each path that leads outside. */
function TakeSheet(props: { project: Project; shared: SharedSheet; onDone: () => void }) {
  const [confirmed, setConfirmed] = useState<string[]>([]);
  const difference = useProfileDifference(props.project.id, props.shared, confirmed);
  const take = useImportProfile(props.project);
  const changes = difference.data?.changes ?? [];
  return (
    <Box
      position="absolute"
      right="0"
      top="30px"
      zIndex="1"
      w="520px"
      bg="ground"
      border="1px solid"
      borderColor="muted"
      p="3"
      fontSize="13px"
      role="dialog"
      aria-label={phrase("programs.importAProfile")}
    >
      <Failure error={difference.error} />
      {difference.data && changes.length === 0 && (
        <Text>{phrase("programs.itWouldChangeNothingHere")}</Text>
      )}
      {changes.map((line) => (
        <Text key={line}>{line}</Text>
      ))}
      {difference.data?.outside.map((path) => (
        <Box key={path} mt="1">
          <Tick
            label={phrase("programs.alsoWhichLeadsOutside", { path })}
            on={confirmed.includes(path)}
            onChange={(on) =>
              setConfirmed(on ? [...confirmed, path] : confirmed.filter((p) => p !== path))
            }
          />
        </Box>
      ))}
      <Failure error={take.error} />
      <Flex gap="2" mt="2">
        <Main
          size="xs"
          disabled={changes.length === 0}
          loading={take.isPending}
          onClick={() =>
            take.mutate({ shared: props.shared, confirmed }, { onSuccess: props.onDone })
          }
        >
          {phrase("programs.importThisProfile")}
        </Main>
        <Side size="xs" onClick={props.onDone}>
          {phrase("common.leaveIt")}
        </Side>
      </Flex>
    </Box>
  );
}

/** Hands a program sheet on as a file, and takes one from others. */
export function ShareProfile({ project }: { project: Project }) {
  const [shared, setShared] = useState<SharedSheet>();
  const [unreadable, setUnreadable] = useState<Error>();
  const read = async (file: File | undefined) => {
    if (!file) return;
    try {
      setShared(JSON.parse(await file.text()) as SharedSheet);
      setUnreadable(undefined);
    } catch {
      setUnreadable(new Error(phrase("programs.isNoProfile", { name: file.name })));
    }
  };
  return (
    <Flex gap="2" position="relative">
      <Side size="xs" asChild>
        <a href={`/api/projects/${project.id}/profile`} download>
          {phrase("programs.export")}
        </a>
      </Side>
      <FileButton
        name={phrase("programs.profileToImportFor", { name: project.name })}
        json
        onFile={(file) => void read(file)}
      >
        {phrase("programs.import")}
      </FileButton>
      <Failure error={unreadable} />
      {shared && (
        <TakeSheet project={project} shared={shared} onDone={() => setShared(undefined)} />
      )}
    </Flex>
  );
}

import { Box, Flex, Text } from "@chakra-ui/react";
import { useRef, useState } from "react";
import type { Project, SharedSheet } from "../api/schema";
import { useProfileDifference, useImportProfile } from "../api/finding";
import { Tick } from "../shared/fields";
import { Failure, Main, Side } from "../shared/parts";

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
      aria-label="Import a profile"
    >
      <Failure error={difference.error} />
      {difference.data && changes.length === 0 && <Text>It would change nothing here.</Text>}
      {changes.map((line) => (
        <Text key={line}>{line}</Text>
      ))}
      {difference.data?.outside.map((path) => (
        <Box key={path} mt="1">
          <Tick
            label={`Also ${path}, which leads outside`}
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
          Import this profile
        </Main>
        <Side size="xs" onClick={props.onDone}>
          Leave it
        </Side>
      </Flex>
    </Box>
  );
}

/** Hands a program sheet on as a file, and takes one from others. */
export function ShareProfile({ project }: { project: Project }) {
  const chooser = useRef<HTMLInputElement>(null);
  const [shared, setShared] = useState<SharedSheet>();
  const [unreadable, setUnreadable] = useState<Error>();
  const read = async (file: File | undefined) => {
    if (!file) return;
    try {
      setShared(JSON.parse(await file.text()) as SharedSheet);
      setUnreadable(undefined);
    } catch {
      setUnreadable(new Error(`${file.name} is no program profile. Nothing was changed.`));
    }
  };
  return (
    <Flex gap="2" position="relative">
      <Side size="xs" asChild>
        <a href={`/api/projects/${project.id}/profile`} download>
          Export
        </a>
      </Side>
      <Side size="xs" onClick={() => chooser.current?.click()}>
        Import
      </Side>
      <input
        ref={chooser}
        type="file"
        accept=".json,application/json"
        hidden
        aria-label={`Profile to import for ${project.name}`}
        onChange={(e) => {
          void read(e.target.files?.[0]);
          e.target.value = "";
        }}
      />
      <Failure error={unreadable} />
      {shared && (
        <TakeSheet project={project} shared={shared} onDone={() => setShared(undefined)} />
      )}
    </Flex>
  );
}

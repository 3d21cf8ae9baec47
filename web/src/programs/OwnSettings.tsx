import { Box, Flex, Table, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Line, ProgramView, Project } from "../api/schema";
import { useProgram, useSession, useSettings } from "../api/queries";
import { Failure, Loading, Main, Notice, Quiet, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { LinkSettings } from "./LinkSettings";

const TONE: Record<Line["standing"], string> = {
  OFF: "loss",
  DIFFERS: "caution",
  MISSING: "muted",
  AS_WANTED: "fir",
  NOT_WANTED: "muted",
};

const STANDS: Record<Line["standing"], string> = {
  OFF: "off",
  DIFFERS: "differs",
  MISSING: "not in the file",
  AS_WANTED: "as wanted",
  NOT_WANTED: "no wish set",
};

function Lines({ lines }: { lines: Line[] }) {
  return (
    <Table.Root size="sm" maxW="860px" mt="2">
      <Table.Header>
        <Table.Row bg="transparent">
          <Table.ColumnHeader>Setting</Table.ColumnHeader>
          <Table.ColumnHeader>Key</Table.ColumnHeader>
          <Table.ColumnHeader>In the file</Table.ColumnHeader>
          <Table.ColumnHeader>Would be written</Table.ColumnHeader>
          <Table.ColumnHeader>Stands</Table.ColumnHeader>
        </Table.Row>
      </Table.Header>
      <Table.Body>
        {lines.map((l) => (
          <Table.Row key={l.meaning} bg="transparent">
            <Table.Cell>{l.words.replace(/, wanted: .*$/, "")}</Table.Cell>
            <Table.Cell fontFamily="mono">{l.key}</Table.Cell>
            <Table.Cell fontFamily="mono">{l.found ?? ""}</Table.Cell>
            <Table.Cell fontFamily="mono" fontWeight="650">
              {l.put ?? ""}
            </Table.Cell>
            <Table.Cell color={TONE[l.standing]} fontWeight={l.put ? "650" : "400"}>
              {STANDS[l.standing]}
            </Table.Cell>
          </Table.Row>
        ))}
      </Table.Body>
    </Table.Root>
  );
}

/** Writes what is wanted into the program's own file, once the person has seen what changes. */
function PutRight({ project, view }: { project: Project; view: ProgramView }) {
  const { allow, putRight, undo } = useSettings(project.id);
  const [insist, setInsist] = useState(false);
  const session = useSession();
  const now = useNow(60_000);
  const differs = view.lines.some((l) => l.put !== undefined);
  const put = (force: boolean) =>
    putRight.mutate(
      { digest: view.digest ?? "", insist: force },
      { onSuccess: () => setInsist(false) },
    );
  return (
    <Box mt="2">
      <Failure error={allow.error ?? putRight.error ?? undo.error} />
      {differs && view.onlyRead && (
        <Text fontSize="13px" color="muted">
          Kavrin only reads settings of this kind: set them in {project.program.name}.
        </Text>
      )}
      {differs && !view.onlyRead && !view.mayPut && (
        <Flex align="center" gap="3">
          <Side loading={allow.isPending} onClick={() => allow.mutate()}>
            Let Kavrin correct files in that folder
          </Side>
          <Text fontSize="13px" color="muted">
            Until then it only reads there.
          </Text>
        </Flex>
      )}
      {differs && !view.onlyRead && view.mayPut && (
        <Flex align="center" gap="3">
          <Main
            disabled={view.runs && !insist}
            loading={putRight.isPending}
            onClick={() => put(insist)}
          >
            Put it right
          </Main>
          {view.runs && !insist && (
            <Side onClick={() => setInsist(true)}>Although {project.program.name} runs</Side>
          )}
          <Text fontSize="13px" color="muted">
            {view.runs
              ? "It runs, and may write its own settings over this when it closes."
              : "Only these values change; the file as it was is put aside and can be restored."}
          </Text>
        </Flex>
      )}
      {view.put && (
        <Text fontSize="13px" color="muted" mt="2">
          {view.put.done
            ? `Put right ${moment(view.put.at, session.data?.zone ?? "UTC", now)} by ${view.put.who}.`
            : "Putting it right was cut off: look at the file."}{" "}
          <Quiet onClick={() => undo.mutate()}>undo</Quiet>
        </Text>
      )}
    </Box>
  );
}

/** A program's own settings as found, against what was wanted. */
export function OwnSettings({ project }: { project: Project }) {
  const program = useProgram(project.id);
  const [linking, setLinking] = useState(false);
  const view = program.data;
  if (program.error) return <Failure error={program.error} />;
  if (!view) return <Loading what="Reading its settings" />;
  if (linking) return <LinkSettings project={project} onDone={() => setLinking(false)} />;
  if (!view.linked) {
    return (
      <Flex align="center" gap="3" mt="2">
        <Side size="xs" onClick={() => setLinking(true)}>
          Show Kavrin its settings file
        </Side>
        <Text fontSize="13px" color="muted">
          Then Kavrin sees whether its own autosave is on, and can put it right.
        </Text>
      </Flex>
    );
  }
  return (
    <Box mt="3">
      <Flex gap="3" align="baseline">
        <Text fontSize="13px" color="muted">
          Its own settings
        </Text>
        <Text fontFamily="mono" fontSize="13px">
          {view.file ?? project.program.settings?.file}
        </Text>
        <Quiet onClick={() => setLinking(true)}>change</Quiet>
      </Flex>
      {view.off && (
        <Box mt="2">
          <Notice tone="loss">
            The program&apos;s own autosave is off. Until it is on, Kavrin can only back up what you
            save.
          </Notice>
        </Box>
      )}
      {view.problem && (
        <Box mt="2">
          <Notice tone="caution">{view.problem}</Notice>
        </Box>
      )}
      {view.lines.length > 0 && <Lines lines={view.lines} />}
      <PutRight project={project} view={view} />
    </Box>
  );
}

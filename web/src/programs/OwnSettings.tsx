import { Box, Flex, Table, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Line, ProgramView, Project } from "../api/schema";
import { useProgram, useSession, useSettings } from "../api/queries";
import { Failure, Loading, Main, Notice, Quiet, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { AskSettings, LookedUp } from "./AskSettings";
import { LinkSettings } from "./LinkSettings";
import { phrase } from "../words/phrase";

const TONE: Record<Line["standing"], string> = {
  OFF: "loss",
  DIFFERS: "caution",
  MISSING: "muted",
  AS_WANTED: "fir",
  NOT_WANTED: "muted",
};

const STANDS: Record<Line["standing"], string> = {
  OFF: phrase("programs.off"),
  DIFFERS: phrase("programs.differs"),
  MISSING: phrase("programs.notInTheFile"),
  AS_WANTED: phrase("programs.asWanted"),
  NOT_WANTED: phrase("programs.noWishSet"),
};

/** Settings a person looked up stand in no file. */
function SaidLines({ lines }: { lines: Line[] }) {
  return (
    <Table.Root size="sm" maxW="860px" mt="2">
      <Table.Header>
        <Table.Row bg="transparent">
          <Table.ColumnHeader>{phrase("programs.setting")}</Table.ColumnHeader>
          <Table.ColumnHeader>{phrase("programs.stands")}</Table.ColumnHeader>
        </Table.Row>
      </Table.Header>
      <Table.Body>
        {lines.map((l) => (
          <Table.Row key={l.meaning} bg="transparent">
            <Table.Cell>{l.words}</Table.Cell>
            <Stands line={l} />
          </Table.Row>
        ))}
      </Table.Body>
    </Table.Root>
  );
}

function Stands({ line }: { line: Line }) {
  return (
    <Table.Cell color={TONE[line.standing]} fontWeight={line.put ? "650" : "400"}>
      {STANDS[line.standing]}
    </Table.Cell>
  );
}

function Lines({ lines }: { lines: Line[] }) {
  return (
    <Table.Root size="sm" maxW="860px" mt="2">
      <Table.Header>
        <Table.Row bg="transparent">
          <Table.ColumnHeader>{phrase("programs.setting")}</Table.ColumnHeader>
          <Table.ColumnHeader>{phrase("programs.key")}</Table.ColumnHeader>
          <Table.ColumnHeader>{phrase("programs.inTheFile")}</Table.ColumnHeader>
          <Table.ColumnHeader>{phrase("programs.wouldBeWritten")}</Table.ColumnHeader>
          <Table.ColumnHeader>{phrase("programs.stands")}</Table.ColumnHeader>
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
            <Stands line={l} />
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
          {phrase("programs.kavrinOnlyReadsSettingsOfThis", { name: project.program.name })}
        </Text>
      )}
      {differs && !view.onlyRead && !view.mayPut && (
        <Flex align="center" gap="3">
          <Side loading={allow.isPending} onClick={() => allow.mutate()}>
            {phrase("programs.letKavrinCorrectFilesInThat")}
          </Side>
          <Text fontSize="13px" color="muted">
            {phrase("programs.untilThenItOnlyReadsThere")}
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
            {phrase("programs.putItRight")}
          </Main>
          {view.runs && !insist && (
            <Side onClick={() => setInsist(true)}>
              {phrase("programs.althoughRuns", { name: project.program.name })}
            </Side>
          )}
          <Text fontSize="13px" color="muted">
            {view.runs
              ? phrase("programs.itRunsAndMayWriteIts")
              : phrase("programs.onlyTheseValuesChangeTheFile")}
          </Text>
        </Flex>
      )}
      {view.put && (
        <Text fontSize="13px" color="muted" mt="2">
          {view.put.done
            ? phrase("programs.putRightBy", {
                moment: moment(view.put.at, session.data?.zone ?? "UTC", now),
                who: view.put.who,
              })
            : phrase("programs.puttingItRightWasCutOff")}{" "}
          <Quiet onClick={() => undo.mutate()}>{phrase("programs.undo")}</Quiet>
        </Text>
      )}
    </Box>
  );
}

/** A program's own settings as found, against what was wanted. */
export function OwnSettings({ project }: { project: Project }) {
  const program = useProgram(project.id);
  const [linking, setLinking] = useState(false);
  const [asking, setAsking] = useState(false);
  const view = program.data;
  if (program.error) return <Failure error={program.error} />;
  if (!view) return <Loading what={phrase("programs.readingItsSettings")} />;
  if (linking) return <LinkSettings project={project} onDone={() => setLinking(false)} />;
  if (asking) return <AskSettings project={project} onDone={() => setAsking(false)} />;
  if (!view.linked) {
    return (
      <Flex align="center" gap="3" mt="2" wrap="wrap">
        <Side size="xs" onClick={() => setLinking(true)}>
          {phrase("programs.showKavrinItsSettingsFile")}
        </Side>
        <Text fontSize="13px" color="muted">
          {phrase("programs.thenKavrinSeesWhetherItsOwn")}
        </Text>
        <Side size="xs" onClick={() => setAsking(true)}>
          {phrase("programs.sayWhatItShows")}
        </Side>
        <Text fontSize="13px" color="muted">
          {phrase("programs.whereNothingCanReadThem")}
        </Text>
      </Flex>
    );
  }
  return (
    <Box mt="3">
      {view.lookedUp ? (
        <LookedUp project={project} view={view} onLook={() => setAsking(true)} />
      ) : (
        <Flex gap="3" align="baseline">
          <Text fontSize="13px" color="muted">
            {phrase("programs.itsOwnSettings")}
          </Text>
          <Text fontFamily="mono" fontSize="13px">
            {view.file ?? project.program.settings?.file}
          </Text>
          <Quiet onClick={() => setLinking(true)}>{phrase("programs.change")}</Quiet>
        </Flex>
      )}
      {view.off && (
        <Box mt="2">
          <Notice tone="loss">{phrase("programs.theProgramsOwnAutosaveIsOff")}</Notice>
        </Box>
      )}
      {view.problem && (
        <Box mt="2">
          <Notice tone="caution">{view.problem}</Notice>
        </Box>
      )}
      {view.lines.length > 0 &&
        (view.lookedUp ? <SaidLines lines={view.lines} /> : <Lines lines={view.lines} />)}
      <PutRight project={project} view={view} />
    </Box>
  );
}

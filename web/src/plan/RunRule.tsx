import { Box, Flex, Grid, Table, Text } from "@chakra-ui/react";
import { useDeferredValue, useState } from "react";
import type { Project, RunPreview, SetRule } from "../api/schema";
import { useJoinRuns, useRunsPreview } from "../api/queries";
import { FormDialog } from "../shared/FormDialog";
import { Failure, Loading, Main, Quiet, Side } from "../shared/parts";
import { count } from "../shared/words";
import { Setting, Words } from "../shared/fields";
import { phrase } from "../words/phrase";

type Role = "SETUP" | "RESTART" | "RESULT";

/** How the files of each role are called, as a person types it; an empty name means none. */
type Draft = Record<Role, { folder: string; pattern: string }>;

const ROLES: [Role, string, string][] = [
  ["SETUP", phrase("plan.setUp"), phrase("plan.whatTheRunIsToldIt")],
  ["RESTART", phrase("plan.restartFile"), phrase("plan.theSafetyARunGoesOn")],
  ["RESULT", phrase("plan.result"), phrase("plan.theProductBackedUpOnceThen")],
];

const EMPTY: Draft = {
  SETUP: { folder: "", pattern: "{stem}.json" },
  RESTART: { folder: "", pattern: "{stem}-{step}.restart.h5" },
  RESULT: { folder: "", pattern: "{stem}-{step}.result.h5" },
};

function draftOf(sets: SetRule | undefined): Draft {
  if (!sets) return EMPTY;
  const of = (role: Role) => {
    const member = sets.members.find((m) => m.role === role);
    return { folder: member?.folder ?? "", pattern: member?.pattern ?? "" };
  };
  return { SETUP: of("SETUP"), RESTART: of("RESTART"), RESULT: of("RESULT") };
}

function ruleOf(draft: Draft): SetRule {
  const members = ROLES.map(([role]) => ({ role, ...draft[role] })).filter(
    (m) => m.pattern.trim() !== "",
  );
  return { members };
}

function steps(run: RunPreview["runs"][number]): string {
  if (run.from === undefined || run.to === undefined) return phrase("plan.noStepYet");
  const range =
    run.from === run.to
      ? phrase("plan.step", { from: run.from })
      : phrase("plan.stepsTo", { from: run.from, to: run.to });
  return run.runs > 1 ? phrase("plan.runs", { range, runs: run.runs }) : range;
}

/** What the rule finds on disk at this moment. */
function Found({ preview }: { preview: RunPreview }) {
  return (
    <Box aria-live="polite">
      <Text fontWeight="650" fontSize="13px" mb="1">
        {preview.runs.length === 0
          ? phrase("plan.noFileIsCalledLikeThat")
          : phrase("plan.wouldJoinNewOnesByThemselves", {
              runFolders: count(preview.runs.length, "run folder"),
            })}
      </Text>
      <Box maxH="150px" overflow="auto">
        <Table.Root size="sm" css={{ "& td, & th": { borderColor: "hairline", py: "3px" } }}>
          <Table.Body>
            {preview.runs.map((run) => (
              <Table.Row key={run.setup} bg="transparent">
                <Table.Cell fontFamily="mono" fontSize="12px">
                  {run.setup}
                </Table.Cell>
                <Table.Cell whiteSpace="nowrap">{steps(run)}</Table.Cell>
                <Table.Cell whiteSpace="nowrap">{count(run.restarts, "restart file")}</Table.Cell>
                <Table.Cell whiteSpace="nowrap">{count(run.results, "result")}</Table.Cell>
                <Table.Cell color="caution">{run.told.join("; ")}</Table.Cell>
              </Table.Row>
            ))}
          </Table.Body>
        </Table.Root>
      </Box>
      {preview.strangers.length > 0 && (
        <Text fontSize="12px" color="muted" mt="1">
          {phrase("plan.fitsNoNameAbove", { strangers: preview.strangers.join(", ") })}
        </Text>
      )}
    </Box>
  );
}

function Editor({ project, onClose }: { project: Project; onClose: () => void }) {
  const [draft, setDraft] = useState(() => draftOf(project.sets));
  const rule = ruleOf(draft);
  const asked = useDeferredValue(rule);
  const preview = useRunsPreview(project.id, asked.members.length > 1 ? asked : undefined);
  const join = useJoinRuns(project.id);
  const set = (role: Role, changes: Partial<Draft[Role]>) =>
    setDraft({ ...draft, [role]: { ...draft[role], ...changes } });
  const apply = (sets: SetRule | null) =>
    join.mutate({ version: project.version, sets }, { onSuccess: onClose });
  return (
    <FormDialog
      open
      size="xl"
      onOpen={(open) => !open && onClose()}
      title={phrase("plan.whichFilesOfARunBelong", { name: project.name })}
      onSubmit={() => apply(rule)}
      footer={
        <>
          {project.sets && (
            <Side loading={join.isPending} onClick={() => apply(null)}>
              {phrase("plan.treatEveryFileAlone")}
            </Side>
          )}
          <Side onClick={onClose}>{phrase("common.leaveIt")}</Side>
          <Main
            type="submit"
            disabled={rule.members.length < 2 || preview.isError}
            loading={join.isPending}
          >
            {phrase("plan.theseBelongTogether")}
          </Main>
        </>
      }
    >
      <Text fontSize="13px" color="muted" mb="2">
        {phrase("plan.isTheNameTheFilesShare")}
      </Text>
      <Grid templateColumns="110px 150px 1fr" gap="2" alignItems="baseline" mb="3">
        <Text color="muted" fontSize="12px">
          {phrase("plan.role")}
        </Text>
        <Text color="muted" fontSize="12px">
          {phrase("plan.folder")}
        </Text>
        <Text color="muted" fontSize="12px">
          {phrase("plan.name")}
        </Text>
        {ROLES.map(([role, name, why]) => (
          <Row key={role} name={name} why={why}>
            {role === "SETUP" ? (
              <Text fontSize="13px" color="muted">
                {phrase("plan.any")}
              </Text>
            ) : (
              <Words
                label={phrase("plan.folderOfThe", { name: name.toLowerCase() })}
                value={draft[role].folder}
                placeholder={phrase("plan.besideIt")}
                onChange={(folder) => set(role, { folder })}
              />
            )}
            <Words
              wide
              label={phrase("plan.nameOfThe", { name: name.toLowerCase() })}
              value={draft[role].pattern}
              placeholder={phrase("plan.noneSet")}
              onChange={(pattern) => set(role, { pattern })}
            />
          </Row>
        ))}
      </Grid>
      <Box minH="120px">
        {preview.data && !preview.isError && <Found preview={preview.data} />}
        {preview.isPending && rule.members.length > 1 && (
          <Loading what={phrase("plan.lookingWhatFits")} />
        )}
        <Failure error={preview.error ?? join.error} />
      </Box>
    </FormDialog>
  );
}

function Row(props: { name: string; why: string; children: [React.ReactNode, React.ReactNode] }) {
  return (
    <>
      <Text fontSize="13px" fontWeight="650" title={props.why}>
        {props.name}
      </Text>
      {props.children[0]}
      {props.children[1]}
    </>
  );
}

/** Says in the plan what a document is here, and opens the editor. */
export function RunRule({ project }: { project: Project }) {
  const [open, setOpen] = useState(false);
  const { sets } = project;
  return (
    <Setting
      name={phrase("plan.aDocumentIs")}
      under={sets ? undefined : phrase("plan.forSolverRunsASetUp")}
    >
      <Flex align="baseline" gap="2" wrap="wrap">
        {sets ? (
          <Text fontSize="13px">
            {phrase("plan.aRun")}{" "}
            {sets.members.map((m) => (
              <Text as="span" key={m.role} fontFamily="mono" fontSize="12px" mr="2">
                {m.folder === "" ? "" : `${m.folder}/`}
                {m.pattern}
              </Text>
            ))}
          </Text>
        ) : (
          <Text fontSize="13px">
            {phrase("plan.aSingleFile", { rule: project.rule.join(", ") })}
          </Text>
        )}
        <Quiet needs="PLAN" onClick={() => setOpen(true)}>
          {sets ? phrase("plan.changeWhatBelongsTogether") : phrase("plan.filesThatBelongTogether")}
        </Quiet>
      </Flex>
      {open && <Editor project={project} onClose={() => setOpen(false)} />}
    </Setting>
  );
}

import { Box, Flex, Grid, Table, Text } from "@chakra-ui/react";
import { useDeferredValue, useState } from "react";
import type { Project, RunPreview, SetRule } from "../api/schema";
import { useJoinRuns, useRunsPreview } from "../api/queries";
import { FormDialog } from "../shared/FormDialog";
import { Failure, Loading, Main, Quiet, Side } from "../shared/parts";
import { count } from "../shared/words";
import { Setting, Words } from "../shared/fields";

type Role = "SETUP" | "RESTART" | "RESULT";

/** How the files of each role are called, as a person types it; an empty name means none. */
type Draft = Record<Role, { folder: string; pattern: string }>;

const ROLES: [Role, string, string][] = [
  ["SETUP", "Set-up", "what the run is told; it says where a run lies"],
  ["RESTART", "Restart file", "the safety: a run goes on from it"],
  ["RESULT", "Result", "the product: backed up once, then kept"],
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
  if (run.from === undefined || run.to === undefined) return "no step yet";
  const range = run.from === run.to ? `step ${run.from}` : `steps ${run.from} to ${run.to}`;
  return run.runs > 1 ? `${range}, ${run.runs} runs` : range;
}

/** What the rule finds on disk at this moment. */
function Found({ preview }: { preview: RunPreview }) {
  return (
    <Box aria-live="polite">
      <Text fontWeight="650" fontSize="13px" mb="1">
        {preview.runs.length === 0
          ? "No file is called like that set-up yet. New ones join by themselves."
          : `${count(preview.runs.length, "run folder")} would join, new ones by themselves`}
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
          Fits no name above: {preview.strangers.join(", ")}
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
      title={`Which files of a run belong together in ${project.name}`}
      onSubmit={() => apply(rule)}
      footer={
        <>
          {project.sets && (
            <Side loading={join.isPending} onClick={() => apply(null)}>
              Treat every file alone
            </Side>
          )}
          <Side onClick={onClose}>Leave it</Side>
          <Main
            type="submit"
            disabled={rule.members.length < 2 || preview.isError}
            loading={join.isPending}
          >
            These belong together
          </Main>
        </>
      }
    >
      <Text fontSize="13px" color="muted" mb="2">
        {"{stem}"} is the name the files share, {"{step}"} the step. Leave {"{step}"} out where one
        file is written again and again; the step is then read from inside it. The folder counts
        from the set-up; leave it empty if the files lie beside it. Where each process writes a file
        of its own, {"{n}"} stands for its number, or {"{any}"} for any words, in the name or in the
        folder: a step then needs all of them.
      </Text>
      <Grid templateColumns="110px 150px 1fr" gap="2" alignItems="baseline" mb="3">
        <Text color="muted" fontSize="12px">
          role
        </Text>
        <Text color="muted" fontSize="12px">
          folder
        </Text>
        <Text color="muted" fontSize="12px">
          name
        </Text>
        {ROLES.map(([role, name, why]) => (
          <Row key={role} name={name} why={why}>
            {role === "SETUP" ? (
              <Text fontSize="13px" color="muted">
                any
              </Text>
            ) : (
              <Words
                label={`Folder of the ${name.toLowerCase()}`}
                value={draft[role].folder}
                placeholder="beside it"
                onChange={(folder) => set(role, { folder })}
              />
            )}
            <Words
              wide
              label={`Name of the ${name.toLowerCase()}`}
              value={draft[role].pattern}
              placeholder="none"
              onChange={(pattern) => set(role, { pattern })}
            />
          </Row>
        ))}
      </Grid>
      <Box minH="120px">
        {preview.data && !preview.isError && <Found preview={preview.data} />}
        {preview.isPending && rule.members.length > 1 && <Loading what="Looking what fits" />}
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
      name="A document is"
      under={sets ? undefined : "for solver runs: a set-up with its restart files and results"}
    >
      <Flex align="baseline" gap="2" wrap="wrap">
        {sets ? (
          <Text fontSize="13px">
            a run:{" "}
            {sets.members.map((m) => (
              <Text as="span" key={m.role} fontFamily="mono" fontSize="12px" mr="2">
                {m.folder === "" ? "" : `${m.folder}/`}
                {m.pattern}
              </Text>
            ))}
          </Text>
        ) : (
          <Text fontSize="13px">a single file, {project.rule.join(", ")}</Text>
        )}
        <Quiet needs="PLAN" onClick={() => setOpen(true)}>
          {sets ? "change what belongs together" : "files that belong together…"}
        </Quiet>
      </Flex>
      {open && <Editor project={project} onClose={() => setOpen(false)} />}
    </Setting>
  );
}

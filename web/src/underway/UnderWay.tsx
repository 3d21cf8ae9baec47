import { Box, Flex, Table, Text } from "@chakra-ui/react";
import { useCancelJob, useJobs } from "../api/jobs";
import { useMay } from "../api/people";
import { useSession } from "../api/queries";
import type { Job } from "../api/schema";
import { useWhere } from "../app/where";
import { Failure, Loading, PageHead, PathText, Quiet } from "../shared/parts";
import { Head } from "../shared/Head";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { age, count } from "../shared/words";

const WHAT: Record<string, string> = {
  restore: "Restore",
  "restore-parts": "Bring parts back",
  "restore-several": "Restore several",
  "go-on": "Go on from a version",
  "lay-out": "Lay a step out",
  undo: "Undo a restore",
  "undo-several": "Undo a restore of several",
  bundle: "Export a package",
  archive: "Archive a project",
  "bring-back": "Bring an archive back",
  "bring-back-from-store": "Bring back from a store",
  "take-in-from-store": "Take in from a store",
  "clear-leftovers": "Clear leftovers away",
  "clear-out": "Clear old backups out",
  "hold-room": "Hold a disk's room",
  comparison: "Compare",
  "create-project": "Begin a project",
  "recovery-test": "Recovery test",
  search: "Look everywhere",
};

const isOpen = (job: Job) => job.state === "WAITING" || job.state === "RUNNING";

/** What a job is about: a document, a project, a place; some are about nothing that has a name. */
function About({ about }: { about: string }) {
  const { all } = useWhere();
  const document = all.find((d) => d.document.id === about);
  const project = all.find((d) => d.project.id === about)?.project;
  if (document) return <Text>{document.document.name}</Text>;
  if (project) return <Text>{project.name}</Text>;
  if (about.includes("/")) return <PathText path={about} />;
  return <Text color="muted">{about === "everywhere" ? "all folders" : "·"}</Text>;
}

function took(job: Job): string {
  const from = new Date(job.begun ?? job.created).getTime();
  return age(Math.max(1000, new Date(job.ended ?? job.created).getTime() - from));
}

function Standing({ job }: { job: Job }) {
  const again = job.attempt > 1 && " Begun again after a stop.";
  switch (job.state) {
    case "WAITING":
      return <Text>waits for its turn.{again}</Text>;
    case "RUNNING":
      return (
        <Box>
          <Text>
            {job.cancelled ? "is being stopped" : (job.words ?? "under way")}
            {again}
          </Text>
          {job.progress !== undefined && (
            <progress
              value={job.progress}
              max={1}
              aria-label={`${WHAT[job.kind] ?? job.kind}, how far it is`}
              style={{ width: "100%", height: "8px", accentColor: "var(--chakra-colors-fir)" }}
            />
          )}
        </Box>
      );
    case "DONE":
      return <Text color="muted">done, in {took(job)}</Text>;
    case "CANCELLED":
      return <Text color="muted">cancelled</Text>;
    case "FAILED":
      return <Text color="loss">{job.problem?.detail ?? "It did not work."}</Text>;
  }
}

/** What takes longer than a moment: who asked for it, how far it is, what came of it. */
export function UnderWay() {
  const jobs = useJobs();
  const cancel = useCancelJob();
  const session = useSession().data;
  const may = useMay();
  const zone = session?.zone ?? "UTC";
  const now = useNow(10_000);
  if (jobs.isPending) return <Loading what="Looking what is under way" />;
  if (!jobs.data) return <Failure error={jobs.error} />;
  const open = jobs.data.filter(isOpen);
  return (
    <Box>
      <PageHead
        title={
          open.length === 0 ? "Nothing is under way" : `${count(open.length, "job")} under way`
        }
        under="What takes longer than a moment. After a restart of Kavrin it goes on or says why not; cancelled, it ends where all it did is whole. Backups and copies elsewhere go on beside."
      />
      <Failure error={cancel.error} />
      <Box px="4" py="2">
        {jobs.data.length === 0 ? (
          <Text fontSize="13px" color="muted">
            Nobody has asked for anything yet that took longer than a moment.
          </Text>
        ) : (
          <Table.ScrollArea position="relative" tabIndex={0} role="region" aria-label="Jobs, table">
            <Table.Root
              minW="820px"
              whiteSpace="normal"
              size="sm"
              fontSize="13px"
              css={{ "& td, & th": { borderColor: "hairline", verticalAlign: "top" } }}
            >
              <Head columns={["What", "About", "Asked by", "When", "How it stands"]} />
              <Table.Body>
                {[...open, ...jobs.data.filter((j) => !isOpen(j))].map((job) => (
                  <Table.Row key={job.id} bg="transparent">
                    <Table.Cell fontWeight={isOpen(job) ? "650" : "400"} whiteSpace="nowrap">
                      {WHAT[job.kind] ?? job.kind}
                    </Table.Cell>
                    <Table.Cell maxW="320px">
                      <About about={job.key} />
                    </Table.Cell>
                    <Table.Cell whiteSpace="nowrap">{job.person}</Table.Cell>
                    <Table.Cell whiteSpace="nowrap">{moment(job.created, zone, now)}</Table.Cell>
                    <Table.Cell minW="260px">
                      <Flex gap="3" align="baseline">
                        <Box flex="1">
                          <Standing job={job} />
                        </Box>
                        {isOpen(job) &&
                          !job.cancelled &&
                          (may("RESTORE") || job.person === session?.name) && (
                            <Quiet
                              color="ink"
                              loading={cancel.isPending && cancel.variables === job.id}
                              onClick={() => cancel.mutate(job.id)}
                            >
                              Cancel
                            </Quiet>
                          )}
                      </Flex>
                    </Table.Cell>
                  </Table.Row>
                ))}
              </Table.Body>
            </Table.Root>
          </Table.ScrollArea>
        )}
      </Box>
    </Box>
  );
}

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
import { phrase } from "../words/phrase";

const WHAT: Record<string, string> = {
  restore: phrase("underway.restore"),
  "restore-parts": phrase("underway.bringPartsBack"),
  "restore-several": phrase("underway.restoreSeveral"),
  "go-on": phrase("underway.goOnFromAVersion"),
  "lay-out": phrase("underway.layAStepOut"),
  undo: phrase("underway.undoARestore"),
  "undo-several": phrase("underway.undoARestoreOfSeveral"),
  bundle: phrase("common.exportAPackage"),
  archive: phrase("underway.archiveAProject"),
  "bring-back": phrase("underway.bringAnArchiveBack"),
  "bring-back-from-store": phrase("underway.bringBackFromAStore"),
  "take-in-from-store": phrase("underway.takeInFromAStore"),
  "clear-leftovers": phrase("underway.clearLeftoversAway"),
  "clear-out": phrase("underway.clearOldBackupsOut"),
  "hold-room": phrase("underway.holdADisksRoom"),
  comparison: phrase("common.compare"),
  "create-project": phrase("underway.beginAProject"),
  "recovery-test": phrase("common.recoveryTest"),
  search: phrase("underway.lookEverywhere"),
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
  return <Text color="muted">{about === "everywhere" ? phrase("underway.allFolders") : "·"}</Text>;
}

function took(job: Job): string {
  const from = new Date(job.begun ?? job.created).getTime();
  return age(Math.max(1000, new Date(job.ended ?? job.created).getTime() - from));
}

function Standing({ job }: { job: Job }) {
  const again = job.attempt > 1 && ` ${phrase("underway.begunAgainAfterAStop")}`;
  switch (job.state) {
    case "WAITING":
      return <Text>{phrase("underway.waitsForItsTurn", { again })}</Text>;
    case "RUNNING":
      return (
        <Box>
          <Text>
            {job.cancelled
              ? phrase("underway.isBeingStopped")
              : (job.words ?? phrase("underway.underWay"))}
            {again}
          </Text>
          {job.progress !== undefined && (
            <progress
              value={job.progress}
              max={1}
              aria-label={phrase("underway.howFarItIs", { what: WHAT[job.kind] ?? job.kind })}
              style={{ width: "100%", height: "8px", accentColor: "var(--chakra-colors-fir)" }}
            />
          )}
        </Box>
      );
    case "DONE":
      return <Text color="muted">{phrase("underway.doneIn", { took: took(job) })}</Text>;
    case "CANCELLED":
      return <Text color="muted">{phrase("underway.cancelled")}</Text>;
    case "FAILED":
      return <Text color="loss">{job.problem?.detail ?? phrase("underway.itDidNotWork")}</Text>;
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
  if (jobs.isPending) return <Loading what={phrase("underway.lookingWhatIsUnderWay")} />;
  if (!jobs.data) return <Failure error={jobs.error} />;
  const open = jobs.data.filter(isOpen);
  return (
    <Box>
      <PageHead
        title={
          open.length === 0
            ? phrase("underway.nothingIsUnderWay")
            : phrase("underway.underWay2", { jobs: count(open.length, "job") })
        }
        under={phrase("underway.whatTakesLongerThanAMoment")}
      />
      <Failure error={cancel.error} />
      <Box px="4" py="2">
        {jobs.data.length === 0 ? (
          <Text fontSize="13px" color="muted">
            {phrase("underway.nobodyHasAskedForAnythingYet")}
          </Text>
        ) : (
          <Table.ScrollArea
            position="relative"
            tabIndex={0}
            role="region"
            aria-label={phrase("underway.jobsTable")}
          >
            <Table.Root
              minW="820px"
              whiteSpace="normal"
              size="sm"
              fontSize="13px"
              css={{ "& td, & th": { borderColor: "hairline", verticalAlign: "top" } }}
            >
              <Head
                columns={[
                  phrase("common.what"),
                  phrase("underway.about"),
                  phrase("underway.askedBy"),
                  phrase("underway.when"),
                  phrase("underway.howItStands"),
                ]}
              />
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
                              {phrase("common.cancel")}
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

import { Box, Flex, Table, Text, VisuallyHidden } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { DocumentLine, Exposure, OverviewView, ProjectLine } from "../api/schema";
import { useJobs } from "../api/jobs";
import { useAcceptJournals, useOverview, useReport, useSession } from "../api/queries";
import { useGo } from "../app/where";
import { Questions } from "../loss/Questions";
import { CopyNow } from "../versions/CopyNow";
import { CopyOpen } from "./CopyOpen";
import { HowItStands } from "../versions/HowItStands";
import { Allowed, OfProject } from "../shared/Allowed";
import { Empty, Failure, Loading, Main, Notice, PageHead, Quiet, Side } from "../shared/parts";
import { Open } from "../shared/Open";
import { moment } from "../shared/dates";
import { age, count, lostSince, lostTime, size } from "../shared/words";
import { useNow } from "../shared/useNow";

interface Worst {
  project: ProjectLine;
  document: DocumentLine;
  lost: number;
}

/** The document that would lose most now, past what its owner accepts; quiet ones do not count. */
export function worst(overview: OverviewView, now: number): Worst | undefined {
  return overview.projects
    .flatMap((project) =>
      project.documents.map((document) => ({
        project,
        document,
        lost: document.exposure.quiet
          ? 0
          : (lostSince(document.exposure.fileLostSince, document.exposure, now) ?? 0),
      })),
    )
    .filter((w) => w.lost > 0)
    .sort((x, y) => y.lost - x.lost)[0];
}

/** True for what happened; a question is none. */
const isAlarm = (d: DocumentLine) => d.incident !== undefined && d.incident.kind !== "asked";

function Sentence({ overview, now }: { overview: OverviewView; now: number }) {
  const crashed = overview.projects.flatMap((p) =>
    p.documents.filter(isAlarm).map((d) => ({ p, d })),
  );
  const first = crashed[0];
  if (first) {
    const more = crashed.length > 1 ? `, and ${crashed.length - 1} more` : "";
    const lost = first.d.lostSeconds;
    return (
      <>
        <Text as="span" color="loss">
          {lost === undefined
            ? "A crash"
            : first.d.incident?.kind === "closed"
              ? `${lostTime(lost * 1000)} unsaved`
              : `You lost ${lostTime(lost * 1000)}`}
        </Text>{" "}
        in {first.p.name}, {first.d.name}
        {more}
      </>
    );
  }
  const most = worst(overview, now);
  const asked = overview.projects.flatMap((p) => p.documents.filter((d) => d.incident))[0];
  if (asked) return <>Is {asked.name} open elsewhere, or was it left behind?</>;
  if (!most) return <>Nothing would be lost right now</>;
  return (
    <>
      You would lose up to{" "}
      <Text
        as="span"
        color={most.lost > most.document.exposure.acceptedSeconds * 1000 ? "loss" : "ink"}
      >
        {age(most.lost)}
      </Text>{" "}
      of work in {most.document.name}
    </>
  );
}

function Loss(props: { since: string | undefined; exposure: Exposure; now: number }) {
  const { exposure } = props;
  const lost = lostSince(props.since, exposure, props.now);
  if (lost === undefined && !exposure.quiet)
    return (
      <Text as="span" color="caution">
        unknown
      </Text>
    );
  if (lost === undefined || exposure.quiet || lost < 1000)
    return (
      <Text as="span" color="muted">
        nothing
      </Text>
    );
  const past = lost > exposure.acceptedSeconds * 1000;
  return (
    <Text as="span" color={past ? "loss" : "ink"} fontWeight={past ? "650" : "400"}>
      {age(lost)}
      {past ? " !" : ""}
    </Text>
  );
}

function provenWords({ proven }: ProjectLine, zone: string, now: number): string {
  if (!proven.asks) return `Recovery tested ${moment(proven.at ?? now, zone, now)}`;
  return proven.at === undefined ? "▲ Recovery test" : "▲ Recovery test again";
}

function DocumentRow({ d, now, zone }: { d: DocumentLine; now: number; zone: string }) {
  const { go } = useGo();
  const [copying, setCopying] = useState(false);
  const written = d.live?.run?.written ?? d.live?.modified;
  return (
    <Table.Row bg="transparent">
      <Table.Cell fontWeight="600">
        <Link
          to={`/versions/${d.id}`}
          style={{ textDecoration: "underline", textUnderlineOffset: "2px" }}
        >
          {d.name}
        </Link>
        {!d.incident && <HowItStands document={d.id} live={d.live} now={now} zone={zone} />}
      </Table.Cell>
      <Table.Cell>
        {d.exposure.open.mayHoldWork && (
          <>
            <Loss since={d.exposure.programDiesSince} exposure={d.exposure} now={now} />,{" "}
          </>
        )}
        <Open open={d.exposure.open} name={d.name} />
      </Table.Cell>
      <Table.Cell>
        {isAlarm(d) ? (
          <Text as="span" color="loss">
            recover
          </Text>
        ) : (
          <Loss since={d.exposure.fileLostSince} exposure={d.exposure} now={now} />
        )}
      </Table.Cell>
      <Table.Cell whiteSpace="nowrap">
        {written ? `${age(now - new Date(written).getTime())} ago` : "not there"}
      </Table.Cell>
      <Table.Cell whiteSpace="nowrap">
        {d.newestCopy ? `from ${moment(d.newestCopy, zone, now)}` : "none yet"}
      </Table.Cell>
      <Table.Cell whiteSpace="nowrap">
        {d.copies} · {size(d.bytes)}
      </Table.Cell>
      <Table.Cell textAlign="end" whiteSpace="nowrap">
        {isAlarm(d) ? (
          <Main needs="RESTORE" onClick={() => go(`/recover/${d.id}`)}>
            Recover the file
          </Main>
        ) : d.incident ? (
          <Side needs="RESTORE" onClick={() => go(`/recover/${d.id}`)}>
            Answer
          </Side>
        ) : (
          <CopyNow
            document={d.id}
            modified={d.live?.modified}
            now={now}
            brief
            open={copying}
            onOpen={setCopying}
          />
        )}
      </Table.Cell>
    </Table.Row>
  );
}

/** There for those who hear the table; those who see it read the first one's. */
const HIDDEN = { "&&": { height: 0, padding: 0, lineHeight: 0, fontSize: 0, border: 0 } };

const COLUMNS = [
  { head: "Document", width: "19%" },
  { head: "Lost if the program dies", width: "15%" },
  { head: "Lost if the file is lost", width: "14%" },
  { head: "Last written", width: "12%" },
  { head: "Newest backup", width: "13%" },
  { head: "Backups", width: "9%" },
  { head: "", width: "18%", hidden: "What can be done" },
];

/** What asks for a person stands first; among equals the names decide. */
function byNeed(projects: readonly ProjectLine[]): ProjectLine[] {
  const asks = (p: ProjectLine) => (p.documents.some((d) => d.incident) ? 0 : 1);
  return [...projects].sort((x, y) => asks(x) - asks(y) || x.name.localeCompare(y.name));
}

function planWords(project: ProjectLine): string {
  if (project.everySteps > 0)
    return `every ${count(project.everySteps, "step")} of a run backed up`;
  if (project.everySave) return `backed up at every save, newest ${project.keep} kept`;
  return project.intervalSeconds === 0
    ? "no timed backups"
    : `backed up at most ${age(project.intervalSeconds * 1000)} after a change, newest ${project.keep} kept`;
}

/** What would be lost with the site. */
function elsewhereWords(line: NonNullable<ProjectLine["elsewhere"]>): string {
  if (line.stores === 0) return "Nothing elsewhere";
  if (line.siteLost === undefined) return "▲ Not all elsewhere";
  return line.siteLost < 1 ? "All elsewhere" : `Lost with the site: ${age(line.siteLost * 1000)}`;
}

function programWords(project: ProjectLine): string {
  if (project.program === "unknown program") return "";
  return `${project.program} ${project.programRuns ? "runs" : "does not run"} · `;
}

/** Where the program's own safety is not as it should be; off is the loudest. */
function Drifts({ project }: { project: ProjectLine }) {
  const { go } = useGo();
  const [first, ...more] = project.drifts;
  if (!first) return null;
  return (
    <Box mb="2">
      <Notice tone={first.off ? "loss" : "caution"}>
        {project.program}: {first.words}
        {more.length > 0 && `, and ${more.length} more`}.{" "}
        <Quiet needs="LOOK" over="everything" onClick={() => go("/programs")}>
          Show and correct
        </Quiet>
      </Notice>
    </Box>
  );
}

function ProjectBlock({
  project,
  heads,
  now,
  zone,
}: {
  project: ProjectLine;
  /** The first one names the columns for all. */
  heads: boolean;
  now: number;
  zone: string;
}) {
  const report = useReport();
  const { go } = useGo();
  const first = project.documents[0];
  return (
    <OfProject value={project.id}>
      <Box borderBottom="1px solid" borderColor="hairline" px="4" py="3">
        <Flex align="baseline" gap="3" mb="1" wrap={{ base: "wrap", lg: "nowrap" }}>
          <Text as="h2" fontSize="16px" fontWeight="650">
            {project.name}
          </Text>
          <Text fontSize="13px" color="muted" flex="1" minW="0" overflowWrap="anywhere">
            {programWords(project)}
            {planWords(project)}
            {project.linked > 0 && ` · ${count(project.linked, "linked file")} backed up too`}
            {project.cautions.map((c) => (
              <Text as="span" key={c} color="caution" ml="3">
                ▲{"\u00a0"}
                {c}
              </Text>
            ))}
          </Text>
          {first && (
            <Side
              size="xs"
              color={project.proven.asks ? "caution" : undefined}
              title={project.proven.words}
              onClick={() => go(`/recovery-test/${first.id}`)}
            >
              {provenWords(project, zone, now)}
            </Side>
          )}
          {first && project.elsewhere && (
            <Side size="xs" onClick={() => go(`/elsewhere/${first.id}`)}>
              {elsewhereWords(project.elsewhere)}
            </Side>
          )}
          {first && (
            <Side size="xs" onClick={() => go(`/plan/${first.id}`)}>
              Plan
            </Side>
          )}
          {!project.documents.some((d) => d.incident) && (
            <Side
              needs="RESTORE"
              size="xs"
              loading={report.isPending}
              onClick={() => report.mutate(project.id)}
            >
              It crashed
            </Side>
          )}
        </Flex>
        <Failure error={report.error} />
        <Drifts project={project} />
        {project.documents.length === 0 ? (
          <Text fontSize="13px" color="muted" mt="1">
            No document matches the project&apos;s rule in {project.folder} yet. New ones join by
            themselves.
          </Text>
        ) : (
          <Table.ScrollArea
            position="relative"
            tabIndex={0}
            role="region"
            aria-label={`Documents of ${project.name}`}
          >
            <Table.Root
              size="sm"
              fontSize="13px"
              mt="1"
              minW="860px"
              whiteSpace="normal"
              tableLayout="fixed"
              css={{ "& td, & th": { borderColor: "hairline", py: "5px" } }}
            >
              <colgroup>
                {COLUMNS.map((c) => (
                  <col key={c.head} style={{ width: c.width }} />
                ))}
              </colgroup>
              <Table.Header>
                <Table.Row bg="transparent">
                  {COLUMNS.map((c) => (
                    <Table.ColumnHeader
                      key={c.head}
                      color="muted"
                      fontWeight="400"
                      css={heads ? {} : HIDDEN}
                    >
                      {c.head}
                      {"hidden" in c && <VisuallyHidden>{c.hidden}</VisuallyHidden>}
                    </Table.ColumnHeader>
                  ))}
                </Table.Row>
              </Table.Header>
              <Table.Body>
                {project.documents.map((d) => (
                  <DocumentRow key={d.id} d={d} now={now} zone={zone} />
                ))}
              </Table.Body>
            </Table.Root>
          </Table.ScrollArea>
        )}
      </Box>
    </OfProject>
  );
}

export function Overview() {
  const overview = useOverview();
  const jobs = useJobs();
  const session = useSession();
  const accept = useAcceptJournals();
  const now = useNow();
  const { go } = useGo();
  const most = overview.data ? worst(overview.data, now) : undefined;
  const alarm =
    most && most.lost > most.document.exposure.acceptedSeconds * 1000 ? age(most.lost) : undefined;
  useEffect(() => {
    document.title = alarm ? `(${alarm}) Kavrin` : "Kavrin";
  }, [alarm]);
  if (overview.isPending) return <Loading what="Looking at everything" />;
  if (!overview.data) return <Failure error={overview.error} />;
  const { projects, disagreements } = overview.data;
  if (projects.length === 0) {
    return (
      <Empty title="Kavrin keeps your work from getting lost">
        <Text mb="2">
          It watches the files you work on, backs them up, and after a crash finds everything that
          survived, compares it part by part, and brings the right one back.
        </Text>
        <Text mb="4">It begins with a folder: where does your work lie?</Text>
        <Main needs="PLAN" over="everything" onClick={() => go("/start")}>
          Say where the work lies
        </Main>{" "}
        <Side needs="ADMINISTER" over="everything" onClick={() => go("/bring-back")}>
          Bring projects back from a store
        </Side>
      </Empty>
    );
  }
  const underWay = jobs.data?.filter((j) => j.ended === undefined).length;
  const documents = projects.reduce((sum, p) => sum + p.documents.length, 0);
  return (
    <Box>
      <PageHead
        title={<Sentence overview={overview.data} now={now} />}
        under={`${count(projects.length, "project")}, ${count(documents, "document")} watched`}
      >
        <Allowed needs="RESTORE" over="everything">
          <CopyOpen />
        </Allowed>
        <Side onClick={() => go("/under-way")}>
          {underWay ? `Under way: ${underWay}` : "Under way"}
        </Side>
        <Side needs="PLAN" over="everything" onClick={() => go("/start")}>
          Add a project
        </Side>
      </PageHead>
      <Questions zone={session.data?.zone ?? "UTC"} now={now} />
      {disagreements.map((d) => (
        <Notice key={d} tone="caution" role="alert">
          {d} Nothing is dropped until you have looked.{" "}
          <Side
            needs="ADMINISTER"
            over="everything"
            size="xs"
            loading={accept.isPending}
            onClick={() => accept.mutate(undefined)}
          >
            I have looked: take the journal as it is
          </Side>
        </Notice>
      ))}
      {byNeed(projects).map((p, i) => (
        <ProjectBlock
          key={p.id}
          heads={i === 0}
          project={p}
          now={now}
          zone={session.data?.zone ?? "UTC"}
        />
      ))}
    </Box>
  );
}

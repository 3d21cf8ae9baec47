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
import { phrase } from "../words/phrase";

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
    const more =
      crashed.length > 1 ? phrase("overview.andMore", { crashed: crashed.length - 1 }) : "";
    const lost = first.d.lostSeconds;
    return (
      <>
        {phrase("overview.in", {
          loss: (
            <Text as="span" color="loss">
              {lost === undefined
                ? phrase("overview.aCrash")
                : first.d.incident?.kind === "closed"
                  ? phrase("overview.unsaved", { lostTime: lostTime(lost * 1000) })
                  : phrase("overview.youLost", { lostTime: lostTime(lost * 1000) })}
            </Text>
          ),
          project: first.p.name,
          document: first.d.name,
          more,
        })}
      </>
    );
  }
  const most = worst(overview, now);
  const asked = overview.projects.flatMap((p) => p.documents.filter((d) => d.incident))[0];
  if (asked) return <>{phrase("overview.isOpenElsewhereOrWasIt", { name: asked.name })}</>;
  if (!most) return <>{phrase("overview.nothingWouldBeLostRightNow")}</>;
  return (
    <>
      {phrase("overview.youWouldLoseUpToOf", {
        age: (
          <Text
            as="span"
            color={most.lost > most.document.exposure.acceptedSeconds * 1000 ? "loss" : "ink"}
          >
            {age(most.lost)}
          </Text>
        ),
        name: most.document.name,
      })}
    </>
  );
}

function Loss(props: { since: string | undefined; exposure: Exposure; now: number }) {
  const { exposure } = props;
  const lost = lostSince(props.since, exposure, props.now);
  if (lost === undefined && !exposure.quiet)
    return (
      <Text as="span" color="caution">
        {phrase("overview.unknown")}
      </Text>
    );
  if (lost === undefined || exposure.quiet || lost < 1000)
    return (
      <Text as="span" color="muted">
        {phrase("overview.nothing")}
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
  if (!proven.asks)
    return phrase("overview.recoveryTested", { moment: moment(proven.at ?? now, zone, now) });
  return proven.at === undefined
    ? phrase("overview.recoveryTest")
    : phrase("overview.recoveryTestAgain");
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
            {phrase("overview.recover")}
          </Text>
        ) : (
          <Loss since={d.exposure.fileLostSince} exposure={d.exposure} now={now} />
        )}
      </Table.Cell>
      <Table.Cell whiteSpace="nowrap">
        {written
          ? phrase("overview.ago", { age: age(now - new Date(written).getTime()) })
          : phrase("overview.notThere")}
      </Table.Cell>
      <Table.Cell whiteSpace="nowrap">
        {d.newestCopy
          ? phrase("overview.from", { moment: moment(d.newestCopy, zone, now) })
          : phrase("overview.noneYet")}
      </Table.Cell>
      <Table.Cell whiteSpace="nowrap">
        {d.copies} · {size(d.bytes)}
      </Table.Cell>
      <Table.Cell textAlign="end" whiteSpace="nowrap">
        {isAlarm(d) ? (
          <Main needs="RESTORE" onClick={() => go(`/recover/${d.id}`)}>
            {phrase("overview.recoverTheFile")}
          </Main>
        ) : d.incident ? (
          <Side needs="RESTORE" onClick={() => go(`/recover/${d.id}`)}>
            {phrase("overview.answer")}
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
  { head: phrase("common.document"), width: "19%" },
  { head: phrase("overview.lostIfTheProgramDies"), width: "15%" },
  { head: phrase("overview.lostIfTheFileIsLost"), width: "14%" },
  { head: phrase("overview.lastWritten"), width: "12%" },
  { head: phrase("overview.newestBackup"), width: "13%" },
  { head: phrase("overview.backups"), width: "9%" },
  { head: "", width: "18%", hidden: phrase("overview.whatCanBeDone") },
];

/** What asks for a person stands first; among equals the names decide. */
function byNeed(projects: readonly ProjectLine[]): ProjectLine[] {
  const asks = (p: ProjectLine) => (p.documents.some((d) => d.incident) ? 0 : 1);
  return [...projects].sort((x, y) => asks(x) - asks(y) || x.name.localeCompare(y.name));
}

function planWords(project: ProjectLine): string {
  if (project.everySteps > 0)
    return phrase("overview.everyOfARunBackedUp", { steps: count(project.everySteps, "step") });
  if (project.everySave)
    return phrase("overview.backedUpAtEverySaveNewest", { keep: project.keep });
  return project.intervalSeconds === 0
    ? phrase("overview.noTimedBackups")
    : phrase("overview.backedUpAtMostAfterA", {
        age: age(project.intervalSeconds * 1000),
        keep: project.keep,
      });
}

/** What would be lost with the site. */
function elsewhereWords(line: NonNullable<ProjectLine["elsewhere"]>): string {
  if (line.stores === 0) return phrase("overview.nothingElsewhere");
  if (line.siteLost === undefined) return phrase("overview.notAllElsewhere");
  return line.siteLost < 1
    ? phrase("overview.allElsewhere")
    : phrase("overview.lostWithTheSite", { age: age(line.siteLost * 1000) });
}

function programWords(project: ProjectLine): string {
  if (project.program === "unknown program") return "";
  const { program } = project;
  return `${project.programRuns ? phrase("overview.runs", { program }) : phrase("overview.doesNotRun", { program })} · `;
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
        {more.length > 0 && phrase("overview.andMore2", { more: more.length })}.{" "}
        <Quiet needs="LOOK" over="everything" onClick={() => go("/programs")}>
          {phrase("overview.showAndCorrect")}
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
            {project.linked > 0 &&
              ` ${phrase("overview.backedUpToo", { linkedFiles: count(project.linked, "linked file") })}`}
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
              {phrase("common.plan")}
            </Side>
          )}
          {!project.documents.some((d) => d.incident) && (
            <Side
              needs="RESTORE"
              size="xs"
              loading={report.isPending}
              onClick={() => report.mutate(project.id)}
            >
              {phrase("overview.itCrashed")}
            </Side>
          )}
        </Flex>
        <Failure error={report.error} />
        <Drifts project={project} />
        {project.documents.length === 0 ? (
          <Text fontSize="13px" color="muted" mt="1">
            {phrase("overview.noDocumentMatchesTheProjectsRule", { folder: project.folder })}
          </Text>
        ) : (
          <Table.ScrollArea
            position="relative"
            tabIndex={0}
            role="region"
            aria-label={phrase("overview.documentsOf", { name: project.name })}
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
    document.title = alarm ? phrase("overview.kavrin", { alarm }) : "Kavrin";
  }, [alarm]);
  if (overview.isPending) return <Loading what={phrase("overview.lookingAtEverything")} />;
  if (!overview.data) return <Failure error={overview.error} />;
  const { projects, disagreements } = overview.data;
  if (projects.length === 0) {
    return (
      <Empty title={phrase("overview.kavrinKeepsYourWorkFromGetting")}>
        <Text mb="2">{phrase("overview.itWatchesTheFilesYouWork")}</Text>
        <Text mb="4">{phrase("overview.itBeginsWithAFolderWhere")}</Text>
        <Main needs="PLAN" over="everything" onClick={() => go("/start")}>
          {phrase("overview.sayWhereTheWorkLies")}
        </Main>{" "}
        <Side needs="ADMINISTER" over="everything" onClick={() => go("/bring-back")}>
          {phrase("overview.bringProjectsBackFromAStore")}
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
        under={phrase("overview.watched", {
          projects: count(projects.length, "project"),
          documents: count(documents, "document"),
        })}
      >
        <Allowed needs="RESTORE" over="everything">
          <CopyOpen />
        </Allowed>
        <Side onClick={() => go("/under-way")}>
          {underWay ? phrase("overview.underWay", { underWay }) : phrase("overview.underWay2")}
        </Side>
        <Side needs="PLAN" over="everything" onClick={() => go("/start")}>
          {phrase("overview.addAProject")}
        </Side>
      </PageHead>
      <Questions zone={session.data?.zone ?? "UTC"} now={now} />
      {disagreements.map((d) => (
        <Notice key={d} tone="caution" role="alert">
          {phrase("overview.nothingIsDroppedUntilYouHave", { told: d })}{" "}
          <Side
            needs="ADMINISTER"
            over="everything"
            size="xs"
            loading={accept.isPending}
            onClick={() => accept.mutate(undefined)}
          >
            {phrase("overview.iHaveLookedTakeTheJournal")}
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

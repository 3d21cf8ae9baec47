import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { useRef, useState } from "react";
import type { CandidateView, DeskView } from "../api/schema";
import {
  useAnswerIncident,
  useCloseIncident,
  useRecover,
  useMark,
  useReceipts,
  useReport,
  useSession,
} from "../api/queries";
import { useComparison } from "../api/comparing";
import { useGo, useMarkers, useWhere } from "../app/where";
import { ByteMap } from "../compare/ByteMap";
import { Seen } from "../compare/Seen";
import { PartList } from "../compare/PartList";
import { ReceiptCard, RestorePanel } from "../restore/RestorePanel";
import { useKeys } from "../shared/keys";
import { Empty, Failure, Loading, Main, PageHead, Side } from "../shared/parts";
import { moment } from "../shared/dates";
import { KIND, lostTime, size } from "../shared/words";
import { Picture } from "../shared/Picture";
import { useNow } from "../shared/useNow";
import { Group } from "./Group";
import { Allowed, NotAllowed } from "../shared/Allowed";
import { LookedAt } from "./LookedAt";
import { phrase } from "../words/phrase";

/** As many as anybody looks through at once. */
const MORE = 40;

const STEPS = [
  phrase("recover.found"),
  phrase("common.compare"),
  phrase("recover.restore"),
  phrase("recover.proof"),
] as const;

function Steps({ at }: { at: number }) {
  return (
    <Flex as="ol" fontSize="13px" listStyleType="none" aria-label={phrase("recover.steps")}>
      {STEPS.map((step, i) => (
        <Box
          as="li"
          key={step}
          px="3"
          pb="1"
          borderBottom="3px solid"
          borderColor={i < at ? "ink" : i === at ? "fir" : "hairline"}
          fontWeight={i === at ? "650" : "400"}
          color={i > at ? "muted" : "ink"}
          aria-current={i === at ? "step" : undefined}
        >
          {i + 1} {step}
        </Box>
      ))}
    </Flex>
  );
}

function Title({ desk, zone, now }: { desk: DeskView; zone: string; now: number }) {
  const best = desk.candidates.find((c) => c.state === desk.recommended);
  if (desk.incident?.open && desk.incident.kind === "asked")
    return <>{phrase("recover.isItOpenOnAnotherMachine")}</>;
  if (!best || desk.lostSeconds === undefined) {
    return <>{phrase("recover.nothingWholeWasFoundHereIs")}</>;
  }
  return (
    <>
      {desk.incident ? (
        <>
          <Text as="span" color="loss">
            {phrase("recover.youLost", {
              lostTime: lostTime(desk.lostSeconds * 1000),
              ofComputing: best.step !== undefined && ` ${phrase("recover.ofComputing")}`,
            })}
          </Text>{" "}
          {best.step === undefined
            ? phrase("recover.copyFromHasAllTheRest", {
                rank: best.rank,
                moment: moment(best.work, zone, now),
              })
            : phrase("recover.goOnFromStepOf", {
                step: best.step,
                moment: moment(best.work, zone, now),
              })}
        </>
      ) : (
        <>{phrase("recover.noCrashIsKnownTheNewest", { moment: moment(best.work, zone, now) })}</>
      )}
    </>
  );
}

function underTitle(desk: DeskView, program: string, zone: string, now: number): string {
  if (!desk.incident) return phrase("recover.ifSomethingDidGoWrongSay");
  const { from, to, evidence, kind } = desk.incident;
  const a = moment(from, zone, now);
  const b = moment(to, zone, now);
  const when = a === b ? phrase("recover.at", { b }) : phrase("recover.betweenAnd", { a, b });
  if (kind === "asked") return phrase("recover.noticed", { evidence: evidence.join("; "), b });
  const what =
    kind === "closed" ? phrase("recover.wasClosedWithUnsavedWork") : phrase("recover.stopped");
  return `${program} ${what} ${when}. ${evidence.join("; ")}.`;
}

function Candidate(props: {
  candidate: CandidateView;
  chosen: boolean;
  zone: string;
  now: number;
  onChoose: () => void;
}) {
  const { candidate: c } = props;
  return (
    <Box
      as="button"
      w="100%"
      textAlign="start"
      px="3"
      py="2"
      borderBottom="1px solid"
      borderColor="hairline"
      bg={props.chosen ? "slateWash" : undefined}
      boxShadow={props.chosen ? "inset 3px 0 0 var(--chakra-colors-slate)" : undefined}
      _hover={{ bg: props.chosen ? "slateWash" : "raised" }}
      aria-pressed={props.chosen}
      onClick={props.onChoose}
    >
      <Flex gap="2">
        <Box flex="1" minW="0">
          <Flex gap="2" align="baseline" fontSize="13px">
            <Text fontFamily="mono" fontWeight="700" whiteSpace="nowrap">
              {c.rank} {moment(c.work, props.zone, props.now)}
            </Text>
            <Text color="muted" flex="1" truncate>
              {KIND[c.kind]}
            </Text>
            <Text color="muted" whiteSpace="nowrap">
              {size(c.size)}
            </Text>
          </Flex>
          <Text
            fontSize="13px"
            color={c.verdict === "DAMAGED" ? "loss" : c.verdict === "DOUBTFUL" ? "caution" : "ink"}
          >
            {c.words}
          </Text>
          <Text fontSize="11px" fontFamily="mono" color="muted" wordBreak="break-all">
            {c.path}
          </Text>
        </Box>
        {c.parts !== undefined && <Picture content={c.content} alt="" width={72} height={45} />}
      </Flex>
    </Box>
  );
}

export function Recover() {
  const { inHand, overview } = useWhere();
  const document = inHand?.document.id ?? "";
  const desk = useRecover(document);
  const session = useSession();
  const markers = useMarkers();
  const now = useNow(30_000);
  const { go, goOn } = useGo();
  const [part, setPart] = useState<string>();
  const receipts = useReceipts(document);
  const [again, setAgain] = useState(false);
  const [shown, setShown] = useState(MORE);
  const touched = markers.b !== "";
  const report = useReport();
  const close = useCloseIncident();
  const answer = useAnswerIncident();
  const mark = useMark(document);
  const b = markers.b || (desk.data?.recommended ?? "");
  const a = markers.a || (desk.data?.against ?? "");
  const comparison = useComparison(document, a, b);
  const zone = session.data?.zone ?? "UTC";
  const candidates = desk.data?.candidates ?? [];
  const choose = (state: string) => {
    markers.set({ b: state });
  };
  const step = (by: number) => {
    const next = candidates[candidates.findIndex((c) => c.state === b) + by];
    if (next) choose(next.state);
  };
  const together = inHand?.project.documents.filter(
    (d) => d.incident && d.incident.id === desk.data?.incident?.id,
  );
  const takeUp = (id: string) => go(`/recover/${id}`);
  const allTogether = `/recover-several/${document}?incident=${desk.data?.incident?.id ?? ""}`;
  const restoring = useRef<HTMLDivElement>(null);
  useKeys({
    r: () => restoring.current?.querySelector<HTMLElement>("[tabindex='0'], button")?.focus(),
    d: () => {
      const all = together ?? [];
      const next = all[(all.findIndex((x) => x.id === document) + 1) % all.length];
      if (next && next.id !== document) takeUp(next.id);
    },
    "[": () => step(1),
    "]": () => step(-1),
    c: () => go(`/compare/${document}?a=${a}&b=${b}`),
    g: () => {
      if ((together ?? []).length > 1) go(allTogether);
    },
  });

  if (overview.isPending || (document !== "" && desk.isPending))
    return <Loading what={phrase("recover.lookingAtWhatSurvived")} />;
  if (!inHand || !desk.data) {
    return (
      <Empty title={phrase("common.noDocumentYet")}>
        <Failure error={desk.error} />
        <Main needs="PLAN" over="everything" onClick={() => go("/start")}>
          {phrase("recover.sayWhereYourWorkLies")}
        </Main>
      </Empty>
    );
  }
  const { incident } = desk.data;
  const back = incident
    ? receipts.data?.find((r) => new Date(r.made).getTime() > new Date(incident.to).getTime())
    : undefined;
  const proven = back !== undefined && back.receipt.mode !== "undo";
  const verdict = (word: "opened right" | "opened wrong") =>
    mark.mutate({ state: b, mark: word, on: true });
  return (
    <Flex direction="column" h={{ base: "auto", lg: "100%" }}>
      <PageHead
        title={<Title desk={desk.data} zone={zone} now={now} />}
        under={underTitle(desk.data, inHand.project.program, zone, now)}
      >
        {incident?.open ? (
          <Steps at={proven ? 3 : touched ? 2 : 1} />
        ) : (
          <Side
            needs="RESTORE"
            loading={report.isPending}
            onClick={() => report.mutate(inHand.project.id)}
          >
            {phrase("recover.itCrashedSecureWhatIsLeft")}
          </Side>
        )}
        {incident?.open && proven && (
          <Side
            needs="RESTORE"
            onClick={() =>
              close.mutate(
                { project: incident.project, id: incident.id },
                { onSuccess: () => goOn(`/crash-report/${document}?incident=${incident.id}`) },
              )
            }
            loading={close.isPending}
          >
            {phrase("recover.dealtWith")}
          </Side>
        )}
      </PageHead>
      <Failure error={report.error ?? close.error ?? answer.error} />
      {incident?.open && ["closed", "asked"].includes(incident.kind) && (
        <Flex
          px="4"
          py="1.5"
          gap="2"
          fontSize="13px"
          align="center"
          borderBottom="1px solid"
          borderColor="hairline"
        >
          <Text>
            {incident.kind === "asked"
              ? phrase("recover.nothingIsLostAsFarAs")
              : phrase("recover.anAutosaveIsNewerThanThe")}
          </Text>
          <Side
            needs="RESTORE"
            size="xs"
            loading={answer.isPending}
            onClick={() =>
              answer.mutate({ project: incident.project, id: incident.id, crash: true })
            }
          >
            {phrase("recover.itCrashed")}
          </Side>
          <Side
            needs="RESTORE"
            size="xs"
            loading={answer.isPending}
            onClick={() =>
              answer.mutate({ project: incident.project, id: incident.id, crash: false })
            }
          >
            {incident.kind === "asked"
              ? phrase("recover.itIsOpenElsewhere")
              : phrase("recover.iClosedIt")}
          </Side>
          <Text color="muted">
            {incident.kind === "asked"
              ? phrase("recover.whatLiesThereIsSecuredEither")
              : phrase("recover.itsUnsavedWorkIsKeptEither")}
          </Text>
        </Flex>
      )}
      <Grid
        templateColumns={{ base: "minmax(0, 1fr)", lg: "320px 1fr 330px" }}
        flex="1"
        minH="0"
        overflow={{ base: "auto", lg: "visible" }}
        gridAutoRows={{ base: "minmax(420px, auto)", lg: "auto" }}
      >
        <Flex direction="column" minH="0" borderRight="1px solid" borderColor="hairline">
          {together && together.length > 1 && (
            <Group
              documents={together}
              chosen={document}
              onChoose={takeUp}
              onAll={() => go(allTogether)}
            />
          )}
          <Box
            flex="1"
            minH="0"
            overflow="auto"
            aria-label={phrase("recover.whatSurvivedBestFirst")}
            role="region"
            tabIndex={0}
          >
            {candidates.slice(0, shown).map((c) => (
              <Candidate
                key={c.state}
                candidate={c}
                chosen={c.state === b}
                zone={zone}
                now={now}
                onChoose={() => choose(c.state)}
              />
            ))}
            {candidates.length > shown && (
              <Box p="2">
                <Side size="xs" onClick={() => setShown(shown + MORE)}>
                  {phrase("recover.showMoreAreLeft", { candidates: candidates.length - shown })}
                </Side>
              </Box>
            )}
            {candidates.length === 0 && (
              <Text p="3" fontSize="13px">
                {phrase("recover.nothingWasFoundForNextTime")}{" "}
                <Side needs="LOOK" over="everything" size="xs" onClick={() => go("/programs")}>
                  {phrase("recover.seeWhatItsProgramKeeps")}
                </Side>{" "}
                <Side needs="LOOK" over="everything" size="xs" onClick={() => go("/folders")}>
                  {phrase("recover.lookEverywhere")}
                </Side>
              </Text>
            )}
          </Box>
          <LookedAt desk={desk.data} onTrail={() => go(`/versions/${document}`)} />
        </Flex>
        <Flex direction="column" minH="0" minW="0">
          <Flex px="3" py="1.5" gap="2" fontSize="13px" align="center" minH="34px">
            <Text fontWeight="700" color="slate">
              B
            </Text>
            <Text>
              {phrase("recover.chosen", {
                moment: moment(candidates.find((c) => c.state === b)?.work ?? now, zone, now),
              })}
            </Text>
            <Text color="muted">{phrase("recover.against")}</Text>
            <Text fontWeight="700" color="clay">
              A
            </Text>
            <Text>{phrase("recover.lastGoodSave")}</Text>
            <Side size="xs" ml="auto" onClick={() => go(`/compare/${document}?a=${a}&b=${b}`)}>
              {phrase("recover.chooseAnotherA")}
            </Side>
          </Flex>
          <Box flex="1" minH="0">
            {comparison.data?.bytes ? (
              <ByteMap bytes={comparison.data.bytes} />
            ) : comparison.data ? (
              <Seen key={document} comparison={comparison.data} chosen={part} onChoose={setPart} />
            ) : a === b || a === "" ? (
              <Text p="4" color="muted">
                {phrase("recover.thereIsNoSecondVersionTo")}
              </Text>
            ) : comparison.error ? (
              <Failure error={comparison.error} />
            ) : (
              <Loading what={phrase("recover.comparingPartByPart")} />
            )}
          </Box>
          {comparison.data && (
            <Text
              px="3"
              py="2"
              fontSize="13px"
              fontWeight="650"
              borderTop="1px solid"
              borderColor="hairline"
            >
              {comparison.data.sentence}
            </Text>
          )}
        </Flex>
        <Flex direction="column" minH="0" borderLeft="1px solid" borderColor="hairline">
          <Box
            flex="1"
            minH="0"
            overflow="auto"
            tabIndex={0}
            role="region"
            aria-label={phrase("common.parts")}
          >
            {comparison.data && (
              <PartList comparison={comparison.data} chosen={part} onChoose={setPart} />
            )}
          </Box>
          <Box
            p="3"
            borderTop="1px solid"
            borderColor="hairline"
            maxH="65%"
            overflow="auto"
            tabIndex={0}
            role="region"
            aria-label={phrase("recover.restore")}
            ref={restoring}
          >
            <Text fontWeight="650" fontSize="13px" mb="2">
              {proven ? phrase("recover.proof") : phrase("recover.whatWillHappen")}
            </Text>
            {back && !again ? (
              <>
                <ReceiptCard key={back.id} view={back} />
                <Side size="xs" mt="2" onClick={() => setAgain(true)}>
                  {phrase("recover.chooseAnotherCopyInstead")}
                </Side>
              </>
            ) : (
              b !== "" && (
                <>
                  <NotAllowed needs="RESTORE" what={phrase("recover.restoringAVersion")} />
                  <Allowed needs="RESTORE">
                    <RestorePanel
                      key={b}
                      document={document}
                      state={b}
                      onDone={() => setAgain(false)}
                    />
                  </Allowed>
                </>
              )
            )}
            {proven && (
              <Flex gap="1.5" mt="3" wrap="wrap" align="center">
                <Text fontSize="13px" w="100%">
                  {phrase("recover.openItInThenSay", { program: inHand.project.program })}
                </Text>
                <Side needs="RESTORE" size="xs" onClick={() => verdict("opened right")}>
                  {phrase("recover.itOpens")}
                </Side>
                <Side needs="RESTORE" size="xs" onClick={() => verdict("opened wrong")}>
                  {phrase("recover.doesNotOpenNextCopy")}
                </Side>
                {mark.isSuccess && (
                  <Text fontSize="12px" color="muted" role="status">
                    {phrase("recover.noted")}
                  </Text>
                )}
              </Flex>
            )}
          </Box>
        </Flex>
      </Grid>
    </Flex>
  );
}

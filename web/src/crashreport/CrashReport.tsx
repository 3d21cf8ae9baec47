import { Box, Flex, Text } from "@chakra-ui/react";
import { useSearchParams } from "react-router";
import type { ClosingLine, HindsightView } from "../api/schema";
import { useCrashReport } from "../api/crashreport";
import { useApply, useExcept, useProject, useSession } from "../api/queries";
import { useGo, useWhere } from "../app/where";
import { Empty, Failure, Health, Loading, Main, PageHead, PathText, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { count, lostTime } from "../shared/words";
import { phrase } from "../words/phrase";

const lost = (seconds: number) => lostTime(seconds * 1000);

function changeWords(h: HindsightView, program: string): string {
  const minutes = lost(h.toSeconds);
  switch (h.kind) {
    case "PROGRAM_WRITES":
      return phrase("crashreport.savingACopyOfItsOwn", { program, minutes });
    case "INTERVAL":
      return phrase("crashreport.aBackupAtMostAfterA", { minutes });
    case "EVERY_SAVE":
      return phrase("crashreport.aBackupAtEverySave");
  }
}

/** The one change, with the button that makes it. */
function Change(props: { line: ClosingLine; hindsight: HindsightView; program: string }) {
  const { inHand } = useWhere();
  const project = useProject(inHand?.project.id ?? "");
  const apply = useApply(inHand?.project.id ?? "");
  const except = useExcept(props.line.document);
  const { go } = useGo();
  const { hindsight: h, line } = props;
  const own = project.data?.exceptions[line.document] !== undefined;
  const make = () => {
    if (!project.data || !h.plan) return;
    const { version, program } = project.data;
    if (own) except.mutate({ version, plan: h.plan });
    else apply.mutate({ version, plan: h.plan, program });
  };
  const done = apply.isSuccess || except.isSuccess;
  return (
    <Box mt="5" p="4" bg="raised" borderRadius="4px" data-testid="hindsight">
      <Text fontSize="16px" fontWeight="650">
        {phrase("crashreport.wouldHaveSavedOfThis", {
          change: changeWords(h, props.program),
          lost: lost(h.savedSeconds),
        })}
      </Text>
      <Text color="muted" mb="3">
        {phrase("crashreport.wouldHaveBeenLostInsteadOf", {
          lost: lost(h.lostSeconds),
          lost2: lost(line.lostSeconds ?? 0),
        })}
      </Text>
      <Failure error={apply.error ?? except.error} />
      {done ? (
        <Text color="fir" role="status">
          {phrase("crashreport.thePlanIsChanged")}
        </Text>
      ) : h.plan ? (
        <Main needs="PLAN" loading={apply.isPending || except.isPending} onClick={make}>
          {phrase("crashreport.changeThePlanSo")}
        </Main>
      ) : (
        <Main needs="LOOK" over="everything" onClick={() => go("/programs")}>
          {phrase("crashreport.putSOwnSettingRight", { program: props.program })}
        </Main>
      )}
    </Box>
  );
}

function Line({ line, zone, now }: { line: ClosingLine; zone: string; now: number }) {
  const { receipt } = line;
  return (
    <Box as="li" py="2" borderTop="1px solid" borderColor="hairline">
      <Flex gap="4" align="baseline">
        <Text fontWeight="650" w="220px" wordBreak="break-word">
          {line.name}
        </Text>
        <Text w="150px" color={line.lostSeconds === undefined ? "caution" : "loss"}>
          {line.lostSeconds === undefined
            ? phrase("crashreport.nothingRestored")
            : phrase("crashreport.lost", { lost: lost(line.lostSeconds) })}
        </Text>
        {receipt ? (
          <Text flex="1">
            {phrase("crashreport.fromIsBack", {
              moment: moment(line.work ?? receipt.made, zone, now),
            })}{" "}
            <Health verdict={receipt.receipt.verdict} />
            {line.opened ? phrase("crashreport.andIt", { opened: line.opened }) : ""}
          </Text>
        ) : (
          <Text flex="1" color="muted">
            {phrase("crashreport.theFileStandsAsTheCrash")}
          </Text>
        )}
      </Flex>
      {receipt && <PathText path={receipt.receipt.target} />}
    </Box>
  );
}

/** The last page of a crash. */
export function CrashReport() {
  const { inHand, overview } = useWhere();
  const [search] = useSearchParams();
  const session = useSession();
  const now = useNow(30_000);
  const { go } = useGo();
  const closing = useCrashReport(inHand?.project.id ?? "", search.get("incident") ?? "");
  const zone = session.data?.zone ?? "UTC";
  if (overview.isPending || closing.isLoading)
    return <Loading what={phrase("crashreport.addingItUp")} />;
  if (!inHand || !closing.data) {
    return (
      <Empty title={phrase("crashreport.thereIsNoSuchCrash")}>
        <Failure error={closing.error} />
        <Main onClick={() => go("/overview")}>{phrase("crashreport.toTheOverview")}</Main>
      </Empty>
    );
  }
  const { incident, documents, program, writesEverySeconds } = closing.data;
  const back = documents.filter((d) => d.receipt);
  const most = documents.find((d) => d.lostSeconds !== undefined);
  return (
    <Flex direction="column" h={{ base: "auto", lg: "100%" }}>
      <PageHead
        title={
          most?.lostSeconds === undefined ? (
            phrase("crashreport.nothingWasRestoredFromThisCrash")
          ) : (
            <>
              {phrase("crashreport.wereLostInTheEndAll", {
                lost: (
                  <Text as="span" color="loss">
                    {lost(most.lostSeconds)}
                  </Text>
                ),
              })}
            </>
          )
        }
        under={phrase("crashreport.crashOfOfRestored", {
          name: inHand.project.name,
          moment: moment(incident.to, zone, now),
          back: back.length,
          documents: count(documents.length, "document"),
        })}
      >
        <Side onClick={() => go(`/recover/${inHand.document.id}`)}>
          {phrase("crashreport.backToRecover")}
        </Side>
        <Side onClick={() => go(`/recovery-test/${inHand.document.id}`)}>
          {phrase("common.recoveryTest")}
        </Side>
      </PageHead>
      <Box px="4" py="3" overflow="auto" flex="1" minH="0" fontSize="14px" maxW="980px">
        <Text as="h2" fontWeight="650">
          {phrase("crashreport.whatCameBack")}
        </Text>
        <Box as="ul" listStyleType="none" mb="4">
          {documents.map((line) => (
            <Line key={line.document} line={line} zone={zone} now={now} />
          ))}
        </Box>
        <Text as="h2" fontWeight="650">
          {phrase("crashreport.why")}
        </Text>
        <Text>
          {incident.evidence.join("; ")}.{" "}
          {writesEverySeconds === undefined
            ? phrase("crashreport.nothingTellsThatWritesByItself", { program })
            : phrase("crashreport.writesACopyOfItsOwn", {
                program,
                lost: lost(writesEverySeconds),
              })}
        </Text>
        {most?.hindsight ? (
          <Change line={most} hindsight={most.hindsight} program={program} />
        ) : (
          most && (
            <Text mt="4" color="muted">
              {phrase("crashreport.noSingleChangeOfPlanWould")}
            </Text>
          )
        )}
      </Box>
    </Flex>
  );
}

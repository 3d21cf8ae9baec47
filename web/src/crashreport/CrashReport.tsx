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

const lost = (seconds: number) => lostTime(seconds * 1000);

function changeWords(h: HindsightView, program: string): string {
  const minutes = lost(h.toSeconds);
  switch (h.kind) {
    case "PROGRAM_WRITES":
      return `${program} saving a copy of its own every ${minutes}`;
    case "INTERVAL":
      return `A backup at most ${minutes} after a change`;
    case "EVERY_SAVE":
      return "A backup at every save";
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
        {changeWords(h, props.program)} would have saved {lost(h.savedSeconds)} of this.
      </Text>
      <Text color="muted" mb="3">
        {lost(h.lostSeconds)} would have been lost instead of {lost(line.lostSeconds ?? 0)}. Of all
        single changes this one saves most, worked out from what was really written.
      </Text>
      <Failure error={apply.error ?? except.error} />
      {done ? (
        <Text color="fir" role="status">
          The plan is changed.
        </Text>
      ) : h.plan ? (
        <Main needs="PLAN" loading={apply.isPending || except.isPending} onClick={make}>
          Change the plan so
        </Main>
      ) : (
        <Main needs="LOOK" over="everything" onClick={() => go("/programs")}>
          Put {props.program}&apos;s own setting right
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
          {line.lostSeconds === undefined ? "nothing restored" : `${lost(line.lostSeconds)} lost`}
        </Text>
        {receipt ? (
          <Text flex="1">
            from {moment(line.work ?? receipt.made, zone, now)} is back,{" "}
            <Health verdict={receipt.receipt.verdict} />
            {line.opened ? `, and it ${line.opened}` : ""}
          </Text>
        ) : (
          <Text flex="1" color="muted">
            the file stands as the crash left it
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
  if (overview.isPending || closing.isLoading) return <Loading what="Adding it up" />;
  if (!inHand || !closing.data) {
    return (
      <Empty title="There is no such crash">
        <Failure error={closing.error} />
        <Main onClick={() => go("/overview")}>To the overview</Main>
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
            "Nothing was restored from this crash"
          ) : (
            <>
              <Text as="span" color="loss">
                {lost(most.lostSeconds)}
              </Text>{" "}
              were lost in the end; all the rest is back
            </>
          )
        }
        under={`${inHand.project.name}, crash of ${moment(incident.to, zone, now)}: ${back.length} of ${count(documents.length, "document")} restored.`}
      >
        <Side onClick={() => go(`/recover/${inHand.document.id}`)}>Back to Recover</Side>
        <Side onClick={() => go(`/recovery-test/${inHand.document.id}`)}>Recovery test</Side>
      </PageHead>
      <Box px="4" py="3" overflow="auto" flex="1" minH="0" fontSize="14px" maxW="980px">
        <Text as="h2" fontWeight="650">
          What came back
        </Text>
        <Box as="ul" listStyleType="none" mb="4">
          {documents.map((line) => (
            <Line key={line.document} line={line} zone={zone} now={now} />
          ))}
        </Box>
        <Text as="h2" fontWeight="650">
          Why
        </Text>
        <Text>
          {incident.evidence.join("; ")}.{" "}
          {writesEverySeconds === undefined
            ? `Nothing tells that ${program} writes by itself.`
            : `${program} writes a copy of its own every ${lost(writesEverySeconds)}; what was done since the last one was in its memory only.`}
        </Text>
        {most?.hindsight ? (
          <Change line={most} hindsight={most.hindsight} program={program} />
        ) : (
          most && (
            <Text mt="4" color="muted">
              No single change of plan would have saved a minute more of this.
            </Text>
          )
        )}
      </Box>
    </Flex>
  );
}

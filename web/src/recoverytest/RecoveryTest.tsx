import { OneOf } from "../shared/fields";
import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { RehearsalView } from "../api/schema";
import { useSession } from "../api/queries";
import { useAttendedTest, useRecoveryTests, useUnattended, type Way } from "../api/recoverytests";
import { useGo, useWhere } from "../app/where";
import { useKeys } from "../shared/keys";
import { Empty, Failure, Key, Loading, Main, PageHead, Side } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { Guide } from "./Guide";
import { Outcome, Records } from "./Records";
import { phrase } from "../words/phrase";

/** A crash on purpose: on a copy with the stand-in, or guided with the person's own program. */
export function RecoveryTest() {
  const { inHand, overview } = useWhere();
  const document = inHand?.document.id ?? "";
  const rehearsals = useRecoveryTests(document);
  const session = useSession();
  const now = useNow();
  const { go } = useGo();
  const zone = session.data?.zone ?? "UTC";
  const [way, setWay] = useState<Way>("MID_SAVE");
  const drill = useAttendedTest(document);
  const unattended = useUnattended(document);
  const run = () => {
    if (!drill.isPending) drill.mutate(way);
  };
  useKeys({ x: run });
  if (overview.isPending || (document !== "" && rehearsals.isPending))
    return <Loading what={phrase("recoverytest.lookingUpEarlierRecoveryTests")} />;
  if (!inHand || !rehearsals.data) {
    return (
      <Empty title={phrase("common.noDocumentYet")}>
        <Failure error={rehearsals.error} />
        <Main onClick={() => go("/start")}>{phrase("recoverytest.sayWhereYourWorkLies")}</Main>
      </Empty>
    );
  }
  const { proven, ways, going, done } = rehearsals.data;
  const newest: RehearsalView | undefined = drill.data ?? unattended.data ?? done[0];
  return (
    <Flex direction="column" h={{ base: "auto", lg: "100%" }}>
      <PageHead
        title={
          proven.asks ? (
            <Text as="span" color="caution">
              {proven.words}
            </Text>
          ) : (
            <>
              {phrase("recoverytest.wasProven", {
                name: inHand.project.name,
                when: proven.at && moment(proven.at, zone, now),
              })}
            </>
          )
        }
        under={phrase("recoverytest.crashOnPurposeAndSeeWhat")}
      >
        <Side onClick={() => go(`/plan/${document}`)}>
          {phrase("common.plan")} <Key>4</Key>
        </Side>
        <Main
          loading={drill.isPending}
          loadingText={phrase("recoverytest.crashingACopy")}
          onClick={run}
        >
          {phrase("recoverytest.crashACopy")} <Key>x</Key>
        </Main>
      </PageHead>
      <Grid
        templateColumns={{ base: "minmax(0, 1fr)", lg: "300px 1fr 340px" }}
        flex="1"
        minH="0"
        overflow={{ base: "auto", lg: "visible" }}
        gridAutoRows={{ base: "minmax(420px, auto)", lg: "auto" }}
      >
        <Box p="4" borderRight="1px solid" borderColor="hairline" overflow="auto" fontSize="13px">
          <Text fontWeight="650" mb="2">
            {phrase("recoverytest.howItFails")}
          </Text>
          <OneOf
            label={phrase("recoverytest.howItFails")}
            size="sm"
            column
            options={ways.map((w) => ({ value: w.way, words: w.words }))}
            value={way}
            onChange={setWay}
          />
          <Text color="muted" mt="3">
            {phrase("recoverytest.aStandInPlaysThisDocuments")}
          </Text>
          <Failure error={drill.error} />
          <Box borderTop="1px solid" borderColor="hairline" mt="4" pt="3">
            <Text mb="2">{phrase("recoverytest.withNobodyThereTheNewestBackup")}</Text>
            <Side
              size="xs"
              loading={unattended.isPending}
              onClick={() => unattended.mutate(undefined)}
            >
              {phrase("recoverytest.doThatNow")}
            </Side>
            <Failure error={unattended.error} />
          </Box>
        </Box>
        <Box
          minH="0"
          overflow="auto"
          tabIndex={0}
          role="region"
          aria-label={phrase("recoverytest.whatCameOfIt")}
        >
          {newest ? (
            <Outcome rehearsal={newest} zone={zone} now={now} />
          ) : (
            <Text p="4">
              {phrase("recoverytest.noRecoveryTestWasMadeWith", { name: inHand.document.name })}
            </Text>
          )}
          <Records done={done} zone={zone} now={now} />
        </Box>
        <Box p="4" borderLeft="1px solid" borderColor="hairline" overflow="auto" fontSize="13px">
          <Guide
            document={document}
            program={inHand.project.program}
            going={going}
            zone={zone}
            now={now}
          />
        </Box>
      </Grid>
    </Flex>
  );
}

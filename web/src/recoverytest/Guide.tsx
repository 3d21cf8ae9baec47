import { Box, Flex, Text } from "@chakra-ui/react";
import type { Guided } from "../api/schema";
import { useGuided } from "../api/recoverytests";
import { useGo } from "../app/where";
import { Failure, Main, PathText, Side } from "../shared/parts";
import { moment } from "../shared/dates";
import { phrase } from "../words/phrase";

function Step(props: { n: number; done: boolean; now: boolean; children: React.ReactNode }) {
  return (
    <Flex gap="2" py="2" aria-current={props.now ? "step" : undefined}>
      <Text
        fontWeight="700"
        w="18px"
        color={props.done ? "fir" : props.now ? "ink" : "muted"}
        aria-hidden
      >
        {props.done ? "✓" : props.n}
      </Text>
      <Box flex="1" minW="0" color={props.now || props.done ? "ink" : "muted"}>
        {props.children}
      </Box>
    </Flex>
  );
}

/** With the person's own program: what to do next, and what was seen of it. */
export function Guide(props: {
  document: string;
  program: string;
  going: Guided | undefined;
  zone: string;
  now: number;
}) {
  const { document, program, going, zone, now } = props;
  const { begin, end } = useGuided(document);
  const { go } = useGo();
  const wrote = going?.wrote !== undefined;
  const gone = going?.gone !== undefined;
  return (
    <>
      <Text fontWeight="650" mb="1">
        {phrase("recoverytest.withYourOwn", { program })}
      </Text>
      {!going && (
        <>
          <Text color="muted" mb="2">
            {phrase("recoverytest.theProofPeopleBelieveYouChange")}
          </Text>
          <Side size="sm" loading={begin.isPending} onClick={() => begin.mutate(undefined)}>
            {phrase("recoverytest.begin")}
          </Side>
        </>
      )}
      {going && (
        <Box>
          <Step n={1} done={going.programRuns || wrote || gone} now={!going.programRuns && !gone}>
            {phrase("recoverytest.openTheFileInAndChange", { program })}
          </Step>
          <Step n={2} done={wrote} now={going.programRuns && !wrote}>
            {phrase("recoverytest.waitUntilItMakesACopy")}
            {wrote ? (
              <>
                {" "}
                {phrase("recoverytest.itWroteAt", {
                  moment: moment(going.wrote ?? now, zone, now),
                  pathText: <PathText path={going.wroteWhat ?? ""} />,
                })}
              </>
            ) : (
              ` ${phrase("recoverytest.nothingWasWrittenYet")}`
            )}
          </Step>
          <Step n={3} done={gone} now={wrote && !gone}>
            {phrase("recoverytest.nowKillItEndItsProcess", {
              gone:
                gone &&
                ` ${phrase("recoverytest.itWasGoneAt", { moment: moment(going.gone?.to ?? now, zone, now) })}`,
            })}
          </Step>
          <Step n={4} done={false} now={gone}>
            {phrase("recoverytest.lookAtRecoverIsWhatYou")}
            <Flex gap="2" mt="2" wrap="wrap">
              <Side size="xs" disabled={!gone} onClick={() => go(`/recover/${document}`)}>
                {phrase("recoverytest.toRecover")}
              </Side>
              <Main
                size="xs"
                disabled={!gone}
                loading={end.isPending}
                onClick={() => end.mutate(undefined)}
              >
                {phrase("recoverytest.recordWhatCameBack")}
              </Main>
            </Flex>
          </Step>
        </Box>
      )}
      <Failure error={begin.error ?? end.error} />
    </>
  );
}

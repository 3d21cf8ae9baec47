import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { useAnswerLoss, useLosses } from "../api/losses";
import type { LossView } from "../api/schema";
import { useGo, useWhere } from "../app/where";
import { OfProject } from "../shared/Allowed";
import { Failure, Main, Quiet, Side } from "../shared/parts";
import { Picture } from "../shared/Picture";
import { dayOfYear, moment } from "../shared/dates";
import { count, size } from "../shared/words";
import { phrase } from "../words/phrase";

function Question({ loss, zone, now }: { loss: LossView; zone: string; now: number }) {
  const { go } = useGo();
  const answer = useAnswerLoss();
  const say = (what: "meant" | "not today") =>
    answer.mutate({ document: loss.document, after: loss.after, answer: what });
  const project = useWhere().all.find((d) => d.document.id === loss.document)?.project.id;
  return (
    <OfProject value={project}>
      <Flex
        gap="4"
        px="4"
        py="2"
        align="center"
        wrap={{ base: "wrap", lg: "nowrap" }}
        borderTop="1px solid"
        borderColor="hairline"
      >
        {loss.content && (
          <Picture
            content={loss.content}
            {...(loss.part !== undefined && { lit: loss.part })}
            alt={phrase("loss.whatWentFrom", { path: loss.path })}
            width={112}
            height={70}
          />
        )}
        <Box flex={{ base: "1 0 60%", lg: "1" }} minW="0" fontSize="13px">
          <Text fontWeight="650">
            {phrase("loss.theSaveOfTookSomethingAway", { moment: moment(loss.saved, zone, now) })}
          </Text>
          <Text>
            {phrase("loss.of", {
              path: loss.path,
              project: loss.project,
              losses: loss.losses.join("; "),
            })}
          </Text>
          <Text color={loss.soonGone ? "caution" : "muted"} fontSize="12px">
            {phrase("loss.theVersionBeforeIsKeptFor", {
              size: size(loss.bytes),
              dayOfYear: dayOfYear(loss.until, zone),
              soon: loss.soonGone && phrase("loss.thatIsSoon"),
            })}
          </Text>
          <Failure error={answer.error} />
        </Box>
        <Main onClick={() => go(`/compare/${loss.document}?a=${loss.before}&b=${loss.after}`)}>
          {phrase("loss.seeWhatWent")}
        </Main>
        <Side needs="RESTORE" onClick={() => say("meant")} loading={answer.isPending}>
          {phrase("loss.itWasMeant")}
        </Side>
        <Quiet needs="RESTORE" onClick={() => say("not today")} loading={answer.isPending}>
          {phrase("loss.doNotAskForThisDocument")}
        </Quiet>
      </Flex>
    </OfProject>
  );
}

/** What asks to be answered, gathered; nothing while nothing does. */
export function Questions(props: { document?: string; zone: string; now: number }) {
  const losses = useLosses();
  const [all, setAll] = useState(false);
  const asked = (losses.data ?? []).filter(
    (l) => props.document === undefined || l.document === props.document,
  );
  if (asked.length === 0) return null;
  const shown = all ? asked : asked.slice(0, 1);
  return (
    <Box
      role="region"
      aria-label={phrase("loss.questionsAboutSaves")}
      bg="cautionWash"
      borderLeft="3px solid"
      borderColor="caution"
    >
      {shown.map((loss) => (
        <Question
          key={`${loss.document}-${loss.after}`}
          loss={loss}
          zone={props.zone}
          now={props.now}
        />
      ))}
      {asked.length > shown.length && (
        <Box px="4" pb="2">
          <Quiet onClick={() => setAll(true)}>
            {count(asked.length - shown.length, "more question")}
          </Quiet>
        </Box>
      )}
    </Box>
  );
}

import { Box, Flex, Text } from "@chakra-ui/react";
import { usePart } from "../api/parts";
import type { EventView, PartView } from "../api/schema";
import { useGo } from "../app/where";
import { value } from "../compare/PartList";
import { Course } from "./Course";
import { useTray } from "../restore/tray";
import { useKeys } from "../shared/keys";
import { Failure, Key, Loading, Main, Side } from "../shared/parts";
import { Picture } from "../shared/Picture";
import { moment } from "../shared/dates";
import { phrase } from "../words/phrase";

const WHAT: Record<EventView["what"], string> = {
  FIRST: phrase("parts.firstSeen"),
  CHANGED: phrase("parts.changed"),
  MOVED: phrase("parts.moved"),
  RENAMED: phrase("parts.renamed"),
  REPARENTED: phrase("parts.cameToBelongElsewhere"),
  HIDDEN: phrase("parts.noLongerShown"),
  SHOWN: phrase("parts.shownAgain"),
  LOST: phrase("parts.notThereAnyMore"),
  BACK: phrase("parts.backAgain"),
};

/** Kinds of parts there is nothing to see of. */
const UNSEEN = new Set(["setting", "named file", "entry", "table"]);

function Measures({ part }: { part: PartView }) {
  return (
    <Flex wrap="wrap" columnGap="4" fontSize="12px" color="muted" mt="2">
      {Object.entries(part.measures).map(([name, m]) => (
        <Text key={name} as="span">
          {name}{" "}
          <Text as="span" fontFamily="mono" color="ink">
            {value(m.value, m.unit)}
          </Text>
        </Text>
      ))}
    </Flex>
  );
}

/** One part's life, and the ways to the states that have it. */
export function OnePart(props: { document: string; part: number; zone: string; now: number }) {
  const { document, zone, now } = props;
  const asked = usePart(document, props.part);
  const { go } = useGo();
  const part = asked.data;
  const toLast = () => part && go(`/versions/${document}?s=${part.last}`);
  const compare = () =>
    part &&
    go(
      `/compare/${document}?a=${part.last}&b=${part.newest}&part=${encodeURIComponent(part.lastId)}`,
    );
  const tray = useTray(document);
  const bring = () =>
    part?.takes &&
    tray.add({ state: part.last, part: part.lastId, label: part.label, work: part.lastWork });
  useKeys({ g: toLast, c: compare, b: bring });
  if (asked.isPending) return <Loading what={phrase("parts.followingIt")} />;
  if (!part) return <Failure error={asked.error} />;
  const last = part.events.at(-1);
  return (
    <Box p="3" fontSize="13px">
      <Text as="h2" fontSize="16px" fontWeight="650" wordBreak="break-word">
        {part.label}
      </Text>
      <Text color={part.there && part.why === "" ? "muted" : "loss"} mb="2">
        {part.why === "" ? phrase("parts.thereInTheNewestVersion") : part.why}
        {!part.there &&
          last &&
          ` ${phrase("parts.lastSeenBefore", { moment: moment(last.work, zone, now) })}`}
      </Text>
      {!UNSEEN.has(part.kind) && (
        <Picture
          content={part.content}
          lit={part.contentId}
          alt={phrase("parts.asItWasLast", { label: part.label })}
          width={352}
          height={220}
        />
      )}
      <Course series={part.series} />
      <Measures part={part} />
      <Flex gap="2" my="3" wrap="wrap">
        <Main onClick={toLast}>
          {phrase("parts.goToTheLastVersionThat")} <Key>g</Key>
        </Main>
        {part.takes && !part.there && (
          <Side needs="RESTORE" onClick={bring}>
            {phrase("common.bringItBack")} <Key>b</Key>
          </Side>
        )}
        {part.last !== part.newest && (
          <Side onClick={compare}>
            {phrase("parts.compareThatWithNow")} <Key>c</Key>
          </Side>
        )}
      </Flex>
      <Box as="ol" listStyleType="none">
        {part.events.toReversed().map((e, i) => (
          <Flex
            as="li"
            key={`${e.state}-${e.what}-${i}`}
            gap="3"
            py="1"
            borderTop="1px solid"
            borderColor="hairline"
          >
            <Text w="92px" flexShrink="0" fontFamily="mono" fontSize="12px">
              {moment(e.work, zone, now)}
            </Text>
            <Text flex="1" color={e.what === "LOST" ? "loss" : "ink"}>
              {WHAT[e.what]}
              {e.words && (
                <Text as="span" color="muted">
                  {" "}
                  {e.words}
                </Text>
              )}
            </Text>
            <Side
              size="2xs"
              aria-label={phrase("parts.showTheVersionOf", { moment: moment(e.work, zone, now) })}
              onClick={() => go(`/versions/${document}?s=${e.state}`)}
            >
              {phrase("parts.show")}
            </Side>
          </Flex>
        ))}
      </Box>
    </Box>
  );
}

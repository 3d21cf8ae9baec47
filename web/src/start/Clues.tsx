import { Box, Flex, Table, Text } from "@chakra-ui/react";
import type { Clue, WatchView } from "../api/schema";
import { useSession } from "../api/queries";
import { Tick } from "../shared/fields";
import { toTheSecond } from "../shared/dates";
import { age, seconds, size } from "../shared/words";
import { type Choices, isTaken, keyOf } from "./watching";
import { phrase } from "../words/phrase";

const TOPIC: Record<Clue["topic"], string> = {
  DOCUMENT: phrase("start.documents"),
  PROCESS: phrase("start.itsProcess"),
  SIGN: phrase("start.lockFile"),
  AUTOSAVE: phrase("start.itsOwnAutosaves"),
  KEPT_BY_SAVE: phrase("start.keptByEachSave"),
  RESCUE: phrase("start.rescueFile"),
  NAMELESS: phrase("start.cannotBeTied"),
  RHYTHM: phrase("start.autosavesEvery"),
  SETTINGS: phrase("start.itsSettingsFile"),
};

const HAPPENED = {
  APPEARED: phrase("start.appeared"),
  WRITTEN: phrase("start.written"),
  GONE: phrase("start.gone"),
} as const;

const REFUSABLE: readonly Clue["topic"][] = [
  "PROCESS",
  "SIGN",
  "AUTOSAVE",
  "KEPT_BY_SAVE",
  "RESCUE",
  "RHYTHM",
  "SETTINGS",
];

const shown = (clue: Clue) =>
  clue.topic === "RHYTHM" ? age(seconds(clue.value) * 1000) : clue.value;

/** What to do, and what of it was seen. */
export function Steps({ view }: { view: WatchView }) {
  const clues = view.proposed.clues;
  const sure = (topic: Clue["topic"]) => clues.some((c) => c.topic === topic && c.sure);
  const steps: [string, boolean][] = [
    [phrase("start.openTheFileInItsProgram"), sure("DOCUMENT")],
    [phrase("start.letItMakeOneAutosaveIf"), sure("AUTOSAVE")],
    [phrase("start.closeIt"), view.closed],
  ];
  return (
    <Flex as="ol" gap="5" wrap="wrap" listStyleType="none" fontSize="14px" mt="1">
      {steps.map(([words, done]) => (
        <Flex as="li" key={words} gap="1.5" align="baseline">
          <Text as="span" color={done ? "fir" : "muted"} fontWeight="650" aria-hidden>
            {done ? "✓" : "○"}
          </Text>
          <Text as="span">
            {words}
            {done && (
              <Text as="span" color="fir">
                {" "}
                {phrase("start.seen")}
              </Text>
            )}
          </Text>
        </Flex>
      ))}
    </Flex>
  );
}

/** One line for each thing proposed: what, from what, and whether it is taken. */
export function Clues(props: {
  clues: Clue[];
  choices: Choices;
  onChoose: (key: string, taken: boolean) => void;
}) {
  if (props.clues.length === 0) {
    return (
      <Text fontSize="13px" color="muted" mt="3">
        {phrase("start.nothingIsToldByWhatLies")}
      </Text>
    );
  }
  return (
    <Table.Root size="sm" mt="2" aria-label={phrase("start.whatWasSeenOfTheProgram")}>
      <Table.Header>
        <Table.Row bg="transparent">
          <Table.ColumnHeader>{phrase("start.proposed")}</Table.ColumnHeader>
          <Table.ColumnHeader>{phrase("start.as")}</Table.ColumnHeader>
          <Table.ColumnHeader>{phrase("start.because")}</Table.ColumnHeader>
        </Table.Row>
      </Table.Header>
      <Table.Body>
        {props.clues.map((clue) => {
          const key = keyOf(clue);
          return (
            <Table.Row key={key} bg="transparent" verticalAlign="top">
              <Table.Cell whiteSpace="nowrap">
                {REFUSABLE.includes(clue.topic) ? (
                  <Tick
                    label={TOPIC[clue.topic]}
                    on={isTaken(clue, props.choices)}
                    onChange={(on) => props.onChoose(key, on)}
                  />
                ) : (
                  TOPIC[clue.topic]
                )}
              </Table.Cell>
              <Table.Cell fontFamily="mono" fontSize="12px" wordBreak="break-all">
                {shown(clue)}
              </Table.Cell>
              <Table.Cell color="muted" fontSize="12px">
                {clue.seen}
                {!clue.sure && clue.topic !== "NAMELESS" && (
                  <Text as="span" color="caution">
                    {" "}
                    {phrase("start.byItsNameOnly")}
                  </Text>
                )}
              </Table.Cell>
            </Table.Row>
          );
        })}
      </Table.Body>
    </Table.Root>
  );
}

/** The last of what happened to files. */
export function Happenings({ view }: { view: WatchView }) {
  const zone = useSession().data?.zone ?? "UTC";
  return (
    <Box mt="3" fontSize="12px" color="muted">
      <Text>
        {view.goesOn ? phrase("start.watching") : phrase("start.theHourOfWatchingIsOver")}{" "}
        <Text as="span" fontFamily="mono">
          {view.folders.join("  ")}
        </Text>
        {view.cut && phrase("start.theFirst20000FilesOf")}.{" "}
        {view.latest.length === 0 && phrase("start.nothingHappenedToAFileYet")}
      </Text>
      <Box
        maxH="108px"
        overflow="auto"
        tabIndex={0}
        role="log"
        aria-label={phrase("start.whatHappenedToFiles")}
      >
        {view.latest.map((h) => (
          <Text key={`${h.at} ${h.path} ${h.kind}`} fontFamily="mono">
            {toTheSecond(h.at, zone)} {h.path} {HAPPENED[h.kind]}
            {h.kind !== "GONE" && `, ${size(h.size)}`}
          </Text>
        ))}
      </Box>
    </Box>
  );
}

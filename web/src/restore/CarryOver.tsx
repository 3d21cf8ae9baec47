import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { useMark } from "../api/queries";
import type { DocumentLine, StateView } from "../api/schema";
import { useGo } from "../app/where";
import { exactly } from "../shared/dates";
import { Failure, PathText, Side } from "../shared/parts";
import { size } from "../shared/words";
import { phrase } from "../words/phrase";

type Word = "carried over" | "given up";

/** The old version beside today's file, for kinds of which only a person can take parts over. */
export function CarryOver(props: {
  document: DocumentLine;
  state: StateView;
  /** The old version as it was laid out. */
  file: string;
}) {
  const { document, state } = props;
  const { live } = document;
  const mark = useMark(document.id);
  const { go } = useGo();
  const said = state.marks.find((m) => m.mark === "carried over" || m.mark === "given up");
  const say = (word: Word) => mark.mutate({ state: state.id, mark: word, on: true });
  if (!live?.present) return null;
  const row = (when: string, path: string, bytes: number, at: string) => (
    <>
      <Text color="muted">{when}</Text>
      <Box minW="0">
        <PathText path={path} />
        <Text color="muted" fontSize="12px">
          {size(bytes)}, {exactly(at)}
        </Text>
      </Box>
    </>
  );
  return (
    <Box as="section" mt="3" aria-label={phrase("restore.carryOverByHand")}>
      <Text as="h4" fontWeight="650">
        {phrase("restore.onlyAPartOfItOpen")}
      </Text>
      <Grid templateColumns="48px 1fr" columnGap="2" rowGap="1" mt="1">
        {row(phrase("restore.then"), props.file, state.size, state.workTo)}
        {row(phrase("restore.today"), document.path, live.size, live.modified ?? state.workTo)}
      </Grid>
      {said ? (
        <Text role="status" mt="1">
          {phrase("restore.says", {
            outcome:
              said.mark === "carried over"
                ? phrase("restore.carriedOver", { note: said.note ?? "" })
                : phrase("restore.givenUp"),
            who: said.who ?? phrase("restore.somebody"),
          })}
        </Text>
      ) : (
        <Text color="muted" mt="1">
          {phrase("restore.saveTodaysFileInYourProgram")}
        </Text>
      )}
      <Flex gap="2" mt="1" wrap="wrap">
        <Side needs="RESTORE" size="xs" onClick={() => say("carried over")}>
          {phrase("restore.iCarriedItOver")}
        </Side>
        <Side needs="RESTORE" size="xs" onClick={() => say("given up")}>
          {phrase("restore.iGaveUp")}
        </Side>
        <Side size="xs" onClick={() => go(`/compare/${document.id}?a=${state.id}`)}>
          {phrase("restore.whatDiffers")}
        </Side>
      </Flex>
      <Failure error={mark.error} />
    </Box>
  );
}

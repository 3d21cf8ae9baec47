import { Box, Flex, Link, Text } from "@chakra-ui/react";
import type { DocumentLine, StateView } from "../api/schema";
import { useMark } from "../api/queries";
import { useTrial, useTrials } from "../api/restoring";
import { Failure, Notice, PathText, Side } from "../shared/parts";
import { count, size } from "../shared/words";
import { CarryOver } from "./CarryOver";
import { phrase } from "../words/phrase";

/** A copy to open in one's own program before anything is replaced, and the word about it. */
export function TrialPanel(props: {
  document: string;
  state: StateView;
  program: string;
  /** Whose version it is; absent if it goes into another document. */
  own?: DocumentLine | undefined;
  /** Shows the next older state here. */
  onNext?: (() => void) | undefined;
}) {
  const { document, state } = props;
  const trial = useTrial(document);
  const { standing, clear } = useTrials(document);
  const mark = useMark(document);
  const said = state.marks.find((m) => m.mark.startsWith("opened"));
  const say = (word: "opened right" | "opened wrong") =>
    mark.mutate({ state: state.id, mark: word, on: true });
  return (
    <Box mt="4" pt="3" borderTop="1px solid" borderColor="hairline" fontSize="13px">
      <Text as="h3" fontWeight="650">
        {phrase("restore.notSureLookFirstNothingIs")}
      </Text>
      {said && (
        <Text color={said.mark === "opened right" ? "fir" : "loss"}>
          {phrase(
            said.mark === "opened right" ? "restore.itOpensSays" : "restore.itDoesNotOpenSays",
            { who: said.who ?? phrase("restore.somebody") },
          )}
        </Text>
      )}
      {trial.data ? (
        <Box role="status" data-testid="trial">
          <Text mt="1">
            {phrase("restore.openThisInItCanBe", {
              program: props.program || phrase("restore.itsProgram"),
            })}
          </Text>
          <PathText path={trial.data.file} />
          {trial.data.beside.length > 0 && (
            <Text color="muted">
              {phrase("restore.withItUsesAsOfThen", {
                files: count(trial.data.beside.length, "file"),
                size: size(trial.data.bytes),
              })}
            </Text>
          )}
          {trial.data.now.length > 0 && (
            <Text color="muted">
              {phrase("restore.withAsNowNoCopyOf", {
                now: trial.data.now.join(", "),
                many: trial.data.now.length,
              })}
            </Text>
          )}
          {trial.data.missing.length > 0 && (
            <Notice tone="caution">
              {phrase("restore.nobodyHas", { missing: trial.data.missing.join(", ") })}
            </Notice>
          )}
          <Flex gap="2" mt="2" wrap="wrap">
            <Side needs="RESTORE" size="xs" onClick={() => say("opened right")}>
              {phrase("restore.itOpens")}
            </Side>
            <Side
              needs="RESTORE"
              size="xs"
              onClick={() => {
                say("opened wrong");
                props.onNext?.();
              }}
            >
              {props.onNext
                ? phrase("restore.wrongShowTheNextOlderOne")
                : phrase("restore.itIsWrong")}
            </Side>
          </Flex>
          {props.own && <CarryOver document={props.own} state={state} file={trial.data.file} />}
        </Box>
      ) : (
        <Flex gap="2" mt="2" wrap="wrap" align="center">
          <Side
            needs="RESTORE"
            size="xs"
            loading={trial.isPending}
            onClick={() => trial.mutate(state.id)}
          >
            {phrase("restore.layOutACopyToTry")}
          </Side>
          <Link
            href={`/api/documents/${document}/versions/${state.id}/file`}
            download
            fontSize="13px"
            color="ink"
            textDecoration="underline"
          >
            {phrase("restore.saveItElsewhere")}
          </Link>
        </Flex>
      )}
      {standing.data && standing.data.copies > 0 && (
        <Flex gap="2" mt="2" align="baseline" color="muted" fontSize="12px">
          <Text>
            {phrase("restore.standInTheBackupFolderWhat", {
              trialCopies: count(standing.data.copies, "trial copy"),
              size: size(standing.data.bytes),
            })}
          </Text>
          <Side needs="RESTORE" size="xs" loading={clear.isPending} onClick={() => clear.mutate()}>
            {phrase("restore.clearThemAway")}
          </Side>
        </Flex>
      )}
      <Failure error={trial.error ?? mark.error ?? clear.error} />
    </Box>
  );
}

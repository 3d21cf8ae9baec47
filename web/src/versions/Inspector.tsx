import { Box, Flex, Text } from "@chakra-ui/react";
import type { AtStore, StateView } from "../api/schema";
import { useRecheck } from "../api/finding";
import { useMark } from "../api/queries";
import { Failure, Health, Key, Main, PathText, Side } from "../shared/parts";
import { Picture } from "../shared/Picture";
import { moment } from "../shared/dates";
import { KIND, SAVED_FROM, count, size } from "../shared/words";
import { stepWords } from "./VersionTable";
import { phrase } from "../words/phrase";

/** The files that belong together, and what of them is missing. */
function StepFiles({ step }: { step: NonNullable<StateView["step"]> }) {
  return (
    <Box mt="1" fontSize="13px">
      <Text>{stepWords(step)}</Text>
      {step.members.map((m) => (
        <Text key={m.role} fontFamily="mono" fontSize="12px" color={m.held ? "ink" : "muted"}>
          {m.held ? "■" : "□"} {m.path} {size(m.size)}
        </Text>
      ))}
      {step.lacks.length > 0 && (
        <Text color="caution" mt="1">
          {phrase("versions.notToGoOnFrom", { lacks: step.lacks.join("; ") })}
        </Text>
      )}
      {!step.settled && <Text color="caution">{phrase("versions.backedUpWhileItsFilesWere")}</Text>}
    </Box>
  );
}

/** One state: where its copies lie, what was found, what can be done with it. */
export function Inspector(props: {
  document: string;
  state: StateView;
  /** Its copies in stores elsewhere. */
  elsewhere: AtStore[];
  zone: string;
  now: number;
  onRestore: () => void;
  /** Of a trial: the document it was branched off from, and the way back into it. */
  into?: string;
  onTakeOver?: () => void;
  onCompare: () => void;
  onTogether: () => void;
  onWithLinks: () => void;
  onPack: () => void;
  onA: () => void;
  onB: () => void;
}) {
  const { state } = props;
  const mark = useMark(props.document);
  const recheck = useRecheck(props.document);
  const notes = state.findings.filter((f) => f.severity === "NOTE");
  const pinned = state.marks.some((m) => m.mark === "pinned");
  return (
    <Flex
      direction="column"
      h="100%"
      p="4"
      gap="3"
      overflow="auto"
      as="aside"
      aria-label={phrase("versions.chosenVersion")}
    >
      <Box>
        <Text fontWeight="650" fontSize="15px">
          {moment(state.workTo, props.zone, props.now)}, {size(state.size)}
        </Text>
        <Health verdict={state.verdict} />
        {state.parts !== undefined && (
          <Box mt="2">
            <Picture
              content={state.content}
              alt={phrase("versions.whatTheVersionOfShows", {
                moment: moment(state.workTo, props.zone, props.now),
              })}
              width={240}
              height={150}
            />
          </Box>
        )}
        {state.step && <StepFiles step={state.step} />}
        {state.toldBy && (
          <Text fontSize="12px" color="muted">
            {state.orderKnown
              ? phrase("versions.itsTimeComesFrom", { toldBy: state.toldBy })
              : phrase("versions.nothingTellsWhetherItIsOlder")}
          </Text>
        )}
        {state.contradictions.map((c) => (
          <Text key={c} fontSize="12px" color="caution">
            ▲ {c.charAt(0).toUpperCase() + c.slice(1)}.
          </Text>
        ))}
        {state.findings
          .filter((f) => f.severity !== "NOTE")
          .map((f) => (
            <Text key={f.code} fontSize="13px" mt="1">
              {f.words}{" "}
              <Text as="span" color="muted">
                {f.remedy}
              </Text>
            </Text>
          ))}
        {notes.length > 0 && (
          <Box asChild fontSize="12px" color="muted" mt="1">
            <details>
              <summary>
                {phrase("versions.noticed", { otherThings: count(notes.length, "other thing") })}
              </summary>
              {notes.map((f) => (
                <Text key={f.code}>{f.words}</Text>
              ))}
            </details>
          </Box>
        )}
      </Box>
      <Flex gap="2" wrap="wrap">
        <Main needs="RESTORE" onClick={props.onRestore}>
          {state.step ? phrase("versions.layOut") : phrase("versions.restore2")} <Key>r</Key>
        </Main>
        <Side onClick={props.onCompare}>
          {phrase("common.compare")} <Key>c</Key>
        </Side>
        <Side
          needs="RESTORE"
          loading={mark.isPending}
          onClick={() => mark.mutate({ state: state.id, mark: "pinned", on: !pinned })}
        >
          {pinned ? phrase("versions.unpin") : phrase("versions.pin")} <Key>p</Key>
        </Side>
        <Side loading={recheck.isPending} onClick={() => recheck.mutate(state.id)}>
          {phrase("versions.checkAgain")}
        </Side>
        <Side onClick={props.onA} color="clay" aria-label={phrase("versions.setMarkerAHere")}>
          A
        </Side>
        <Side onClick={props.onB} color="slate" aria-label={phrase("versions.setMarkerBHere")}>
          B
        </Side>
      </Flex>
      <Flex gap="2" wrap="wrap">
        <Side size="xs" onClick={props.onTogether}>
          {phrase("versions.theWholeProjectAsOfThen")} <Key>g</Key>
        </Side>
        <Side needs="RESTORE" over="everything" size="xs" onClick={props.onPack}>
          {phrase("common.exportAPackage")}
        </Side>
        {state.links.some((l) => l.held) && (
          <Side size="xs" onClick={props.onWithLinks}>
            {phrase("versions.withItsLinkedFilesOfThen")}
          </Side>
        )}
      </Flex>
      {props.into && (
        <Side
          needs="RESTORE"
          alignSelf="flex-start"
          h="auto"
          py="1.5"
          whiteSpace="normal"
          textAlign="start"
          wordBreak="break-word"
          onClick={props.onTakeOver}
        >
          {phrase("versions.useThisIn", { into: props.into })}
        </Side>
      )}
      <Failure error={mark.error ?? recheck.error} />
      {recheck.isSuccess && (
        <Text fontSize="12px" color="muted" role="status">
          {recheck.data.whole > 0
            ? phrase("versions.readAgainOfTheBackupsAre", { whole: recheck.data.whole })
            : phrase("versions.readAgainWhatIsInsideIs")}
        </Text>
      )}
      {state.copies.map((c) => (
        <Box key={c.id} borderTop="1px solid" borderColor="hairline" pt="2">
          <Text fontSize="13px">
            {SAVED_FROM[c.kind]
              ? phrase("versions.byKavrin", {
                  kind: KIND[c.originKind] ?? "",
                  savedFrom: SAVED_FROM[c.kind],
                })
              : (KIND[c.kind] ?? c.kind)}
            {c.note ? ` · “${c.note}”` : ""}
            {c.settled ? "" : ` ${phrase("versions.copiedWhileItWasBeingWritten")}`}
            {c.cause === "while it grows" ? ` ${phrase("versions.itsWholeLinesSoFarWhile")}` : ""}
          </Text>
          {c.leftOut.length > 0 && (
            <Text color="caution" fontSize="13px">
              {phrase("versions.lightWithout", {
                size: size(c.size),
                leftOut: c.leftOut.join("; "),
              })}
            </Text>
          )}
          {c.fault && (
            <Text color="loss" fontSize="13px">
              {c.fault}
            </Text>
          )}
          {c.compacted && (
            <Text color="muted" fontSize="12px">
              {phrase("versions.compactedAProgramNeedsItRestored")}
            </Text>
          )}
          <PathText path={c.compacted ? `${c.path}.recipe` : c.path} />
        </Box>
      ))}
      {props.elsewhere.map((c) => (
        <Box key={c.store + c.object} borderTop="1px solid" borderColor="hairline" pt="2">
          <Text fontSize="13px">
            {phrase("versions.elsewhereInChecked", {
              store: c.store,
              moment: moment(c.verified, props.zone, props.now),
            })}
          </Text>
          <PathText path={c.object} />
        </Box>
      ))}
      {state.links.length > 0 && (
        <Box borderTop="1px solid" borderColor="hairline" pt="2">
          <Text fontSize="13px">{phrase("versions.uses")}</Text>
          {state.links.map((l) => (
            <Text key={l.path} fontSize="12px" color={l.held === false ? "loss" : "muted"}>
              <Text as="span" fontFamily="mono">
                {l.path}
              </Text>
              {l.held === undefined
                ? ""
                : l.held
                  ? ` ${phrase("versions.copiedAsItWasThen")}`
                  : ` ${phrase("versions.missingThen")}`}
            </Text>
          ))}
        </Box>
      )}
    </Flex>
  );
}

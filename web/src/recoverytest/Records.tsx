import { Box, Flex, Table, Text } from "@chakra-ui/react";
import type { Proof, RehearsalView } from "../api/schema";
import { Figure, Health, PathText } from "../shared/parts";
import { moment } from "../shared/dates";
import { count, KIND, lostTime, seconds } from "../shared/words";
import { Head } from "../shared/Head";
import { phrase } from "../words/phrase";

const lost = (duration: string | undefined, none: string) =>
  duration === undefined ? none : lostTime(seconds(duration) * 1000);

function sentence(proof: Proof): string {
  if (proof.by === "unattended")
    return proof.held
      ? phrase("recoverytest.theNewestBackupWasRestoredWhole")
      : phrase("recoverytest.theNewestBackupWasNotRestored");
  if (proof.actual === undefined) return phrase("recoverytest.nothingThatCanBeTrustedCame");
  return proof.held
    ? phrase("recoverytest.itCameBackOfWorkWere", { lost: lost(proof.actual, "") })
    : phrase("recoverytest.ofWorkWereLost", { lost: lost(proof.actual, "") });
}

function took(proof: Proof): string {
  const s = seconds(proof.took);
  return s < 1
    ? phrase("recoverytest.underASecond")
    : s < 120
      ? `${Math.round(s)} s`
      : lostTime(s * 1000);
}

/** The newest, in full: what came back, promised against actual. */
export function Outcome(props: { rehearsal: RehearsalView; zone: string; now: number }) {
  const { proof } = props.rehearsal;
  return (
    <Box p="4" borderBottom="1px solid" borderColor="hairline" role="status" data-testid="proof">
      <Text fontSize="18px" fontWeight="650" color={proof.held ? "fir" : "loss"}>
        {proof.held ? "✓ " : "✕ "}
        {sentence(proof)}.
      </Text>
      <Text color="muted" fontSize="13px" mb="3">
        {proof.by}: {proof.way}, {moment(props.rehearsal.made, props.zone, props.now)}
      </Text>
      {proof.told !== "" && (
        <Text color="caution" fontSize="13px" mb="2">
          {proof.told}
        </Text>
      )}
      <Flex gap="6" wrap="wrap" mb="3">
        {proof.by !== "unattended" && (
          <>
            <Figure
              value={lost(proof.actual, phrase("recoverytest.allOfIt"))}
              label={phrase("recoverytest.lost")}
            />
            {proof.predicted !== undefined && (
              <Figure
                value={lost(proof.predicted, "")}
                label={phrase("recoverytest.byReplayAtThatMoment")}
              />
            )}
            <Figure
              value={lost(proof.promised, phrase("recoverytest.nothing"))}
              label={
                proof.promised === undefined
                  ? phrase("recoverytest.promisedByThisPlan")
                  : phrase("recoverytest.promisedAtWorst")
              }
            />
          </>
        )}
        {proof.parts !== undefined && (
          <Figure
            value={proof.parts}
            label={phrase("recoverytest.partsDiffer", { n: proof.parts })}
          />
        )}
        <Figure value={took(proof)} label={phrase("recoverytest.fromTheCrashToTheFile")} />
      </Flex>
      {proof.from && (
        <Box fontSize="13px">
          <Health verdict={proof.verdict} />
          {phrase("recoverytest.from")}{" "}
          {proof.from.startsWith("/") ? (
            <PathText path={proof.from} />
          ) : (
            <>
              {KIND[proof.from.split(" ")[0] ?? ""] ?? ""}{" "}
              <Text as="span" fontFamily="mono" fontSize="12px" color="muted" wordBreak="break-all">
                {proof.from.slice(proof.from.indexOf(" ") + 1)}
              </Text>
            </>
          )}
        </Box>
      )}
    </Box>
  );
}

/** All of them, with their dates. */
export function Records(props: { done: RehearsalView[]; zone: string; now: number }) {
  if (props.done.length === 0) return null;
  return (
    <Table.Root size="sm" fontSize="13px" css={{ "& td, & th": { borderColor: "hairline" } }}>
      <Head
        ground
        columns={[
          phrase("recoverytest.when"),
          phrase("recoverytest.how"),
          phrase("recoverytest.by"),
          phrase("recoverytest.lost"),
          phrase("recoverytest.promised"),
          phrase("recoverytest.held"),
        ]}
      />
      <Table.Body>
        {props.done.map(({ id, made, who, proof }) => (
          <Table.Row key={id} bg="transparent">
            <Table.Cell fontFamily="mono" whiteSpace="nowrap">
              {moment(made, props.zone, props.now)}
            </Table.Cell>
            <Table.Cell>{proof.way}</Table.Cell>
            <Table.Cell color="muted">
              {who}, {proof.by}
            </Table.Cell>
            <Table.Cell whiteSpace="nowrap">
              {proof.by === "unattended" ? "" : lost(proof.actual, phrase("recoverytest.all"))}
              {proof.parts !== undefined && proof.parts > 0
                ? `, ${count(proof.parts, "part")}`
                : ""}
            </Table.Cell>
            <Table.Cell whiteSpace="nowrap" color="muted">
              {proof.by === "unattended"
                ? ""
                : lost(proof.promised, phrase("recoverytest.nothing"))}
            </Table.Cell>
            <Table.Cell color={proof.held ? "fir" : "loss"}>
              {proof.held ? phrase("recoverytest.yes") : phrase("recoverytest.no")}
            </Table.Cell>
          </Table.Row>
        ))}
      </Table.Body>
    </Table.Root>
  );
}

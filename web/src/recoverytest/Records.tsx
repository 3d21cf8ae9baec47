import { Box, Flex, Table, Text } from "@chakra-ui/react";
import type { Proof, RehearsalView } from "../api/schema";
import { Figure, Health, PathText } from "../shared/parts";
import { moment } from "../shared/dates";
import { count, KIND, lostTime, seconds } from "../shared/words";
import { Head } from "../shared/Head";

const lost = (duration: string | undefined, none: string) =>
  duration === undefined ? none : lostTime(seconds(duration) * 1000);

function sentence(proof: Proof): string {
  if (proof.by === "unattended")
    return proof.held
      ? "The newest backup was restored whole"
      : "The newest backup was not restored whole";
  if (proof.actual === undefined) return "Nothing that can be trusted came back";
  return proof.held
    ? `It came back; ${lost(proof.actual, "")} of work were lost`
    : `${lost(proof.actual, "")} of work were lost`;
}

function took(proof: Proof): string {
  const s = seconds(proof.took);
  return s < 1 ? "under a second" : s < 120 ? `${Math.round(s)} s` : lostTime(s * 1000);
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
            <Figure value={lost(proof.actual, "all of it")} label="lost" />
            {proof.predicted !== undefined && (
              <Figure value={lost(proof.predicted, "")} label="by replay at that moment" />
            )}
            <Figure
              value={lost(proof.promised, "nothing")}
              label={proof.promised === undefined ? "promised by this plan" : "promised at worst"}
            />
          </>
        )}
        {proof.parts !== undefined && (
          <Figure value={proof.parts} label={proof.parts === 1 ? "part differs" : "parts differ"} />
        )}
        <Figure value={took(proof)} label="from the crash to the file" />
      </Flex>
      {proof.from && (
        <Box fontSize="13px">
          <Health verdict={proof.verdict} />, from{" "}
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
      <Head ground columns={["When", "How", "By", "Lost", "Promised", "Held"]} />
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
              {proof.by === "unattended" ? "" : lost(proof.actual, "all")}
              {proof.parts !== undefined && proof.parts > 0
                ? `, ${count(proof.parts, "part")}`
                : ""}
            </Table.Cell>
            <Table.Cell whiteSpace="nowrap" color="muted">
              {proof.by === "unattended" ? "" : lost(proof.promised, "nothing")}
            </Table.Cell>
            <Table.Cell color={proof.held ? "fir" : "loss"}>{proof.held ? "yes" : "no"}</Table.Cell>
          </Table.Row>
        ))}
      </Table.Body>
    </Table.Root>
  );
}

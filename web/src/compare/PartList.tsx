import { Box, Flex, Table, Text } from "@chakra-ui/react";
import { Side } from "../shared/parts";
import type { ComparisonView, PartChange } from "../api/schema";
import { whole } from "../shared/words";
import { type Group, keyOf, type Outcome } from "./arrange";
import { phrase } from "../words/phrase";

export const SIGN: Record<Outcome, { sign: string; hue: string; word: string }> = {
  ADDED: { sign: "+", hue: "slate", word: phrase("compare.onlyInB") },
  REMOVED: { sign: "−", hue: "clay", word: phrase("compare.onlyInA") },
  CHANGED: { sign: "~", hue: "ink", word: phrase("compare.changed") },
  SHIFTED: { sign: "~", hue: "ink", word: phrase("compare.moved2") },
  RENAMED: { sign: "≡", hue: "muted", word: phrase("compare.renamed") },
  REPARENTED: { sign: "≡", hue: "muted", word: phrase("compare.belongsElsewhere") },
  UNREADABLE: { sign: "?", hue: "caution", word: phrase("compare.notReadable") },
  SAME: { sign: "=", hue: "muted", word: phrase("compare.theSame") },
};

export function value(n: number | undefined, unit: string): string {
  if (n === undefined) return phrase("compare.none");
  const digits = Number.isInteger(n) ? whole(n) : n.toPrecision(5);
  return unit ? `${digits} ${unit}` : digits;
}

/** Brings the part of one side into the file of today. */
export type OnTake = (side: "a" | "b", part: PartChange) => void;

function Numbers({ part, onTake }: { part: PartChange; onTake: OnTake | undefined }) {
  const unit = part.numbers.extent?.unit ?? "";
  return (
    <Box px="3" pb="2" bg="raised">
      <Table.Root
        size="sm"
        fontSize="12px"
        css={{ "& td, & th": { borderColor: "hairline", py: "2px", bg: "transparent" } }}
      >
        <Table.Header>
          <Table.Row bg="transparent">
            <Table.ColumnHeader color="muted">{phrase("compare.measure")}</Table.ColumnHeader>
            <Table.ColumnHeader color="clay" textAlign="end">
              A
            </Table.ColumnHeader>
            <Table.ColumnHeader color="slate" textAlign="end">
              B
            </Table.ColumnHeader>
          </Table.Row>
        </Table.Header>
        <Table.Body fontFamily="mono">
          {Object.entries(part.numbers).map(([name, pair]) => (
            <Table.Row key={name} bg="transparent">
              <Table.Cell fontFamily="body">{name}</Table.Cell>
              <Table.Cell textAlign="end">{value(pair.a, pair.unit)}</Table.Cell>
              <Table.Cell textAlign="end">{value(pair.b, pair.unit)}</Table.Cell>
            </Table.Row>
          ))}
        </Table.Body>
      </Table.Root>
      {part.shift && (
        <Text fontSize="12px" mt="1">
          {phrase("compare.verticesMovedUpToRootMean", {
            most: value(part.shift.largest, unit),
            mean: value(part.shift.rootMeanSquare, unit),
          })}
        </Text>
      )}
      {onTake && (
        <Flex gap="2" mt="2">
          {(["a", "b"] as const)
            .filter((side) => part[side] !== undefined)
            .map((side) => (
              <Side key={side} size="xs" onClick={() => onTake(side, part)}>
                {phrase("compare.takeSIntoTodaysFile", { letter: side.toUpperCase() })}
              </Side>
            ))}
        </Flex>
      )}
    </Box>
  );
}

function Row(props: {
  part: PartChange;
  open: boolean;
  onChoose: () => void;
  onTake: OnTake | undefined;
}) {
  const { part, open } = props;
  const sign = SIGN[part.outcome];
  return (
    <Box role="listitem" borderBottom="1px solid" borderColor="hairline">
      <Flex
        as="button"
        w="100%"
        px="3"
        py="1.5"
        gap="2.5"
        textAlign="start"
        bg={open ? "raised" : undefined}
        _hover={{ bg: "raised" }}
        aria-expanded={open}
        onClick={props.onChoose}
      >
        <Text as="span" w="12px" color={sign.hue} fontWeight="700" aria-label={sign.word}>
          {sign.sign}
        </Text>
        <Text as="span" flex="1" minW="0" wordBreak="break-word">
          {part.label}
        </Text>
        <Text as="span" color="muted" textAlign="end">
          {part.words}
        </Text>
      </Flex>
      {open && <Numbers part={part} onTake={props.onTake} />}
    </Box>
  );
}

/** As many as anybody reads before searching. */
export const MANY = 400;

/** Parts under the things they belong to. */
export function PartGroups(props: {
  groups: Group[];
  chosen: string | undefined;
  onChoose: (part: string | undefined) => void;
  onTake?: OnTake | undefined;
}) {
  const first = props.groups.map((g, i) => ({
    ...g,
    from: props.groups.slice(0, i).reduce((n, one) => n + one.parts.length, 0),
  }));
  return (
    <Box role="list" aria-label={phrase("compare.partsThatDiffer")} fontSize="13px">
      {first
        .filter((g) => g.from < MANY)
        .map((group) => (
          <Box key={group.above} role="presentation">
            {group.above !== "" && (
              <Text px="3" py="1" bg="raised" fontSize="12px" color="muted">
                {group.above}
              </Text>
            )}
            {group.parts.slice(0, MANY - group.from).map((part) => {
              const key = keyOf(part);
              const open = props.chosen === key;
              return (
                <Row
                  key={part.outcome + key}
                  part={part}
                  open={open}
                  onChoose={() => props.onChoose(open ? undefined : key)}
                  onTake={props.onTake}
                />
              );
            })}
          </Box>
        ))}
    </Box>
  );
}

/** Every part that differs, by weight, then how many are the same. */
export function PartList(props: {
  comparison: ComparisonView;
  chosen: string | undefined;
  onChoose: (part: string | undefined) => void;
}) {
  const differing = props.comparison.changes.filter((c) => c.outcome !== "SAME");
  return (
    <>
      <PartGroups
        groups={[{ above: "", parts: differing }]}
        chosen={props.chosen}
        onChoose={props.onChoose}
      />
      <Text px="3" py="1.5" pl="37px" color="muted" fontSize="13px">
        {phrase("compare.theSame2", { many: props.comparison.counts["SAME"] ?? 0 })}
      </Text>
    </>
  );
}

import { Box, Flex, Table, Text } from "@chakra-ui/react";
import type { ComparisonView, PartChange } from "../api/schema";

const SIGN: Record<string, { sign: string; hue: string; word: string }> = {
  ADDED: { sign: "+", hue: "slate", word: "only in B" },
  REMOVED: { sign: "−", hue: "clay", word: "only in A" },
  CHANGED: { sign: "~", hue: "ink", word: "changed" },
  SHIFTED: { sign: "~", hue: "ink", word: "moved" },
  RENAMED: { sign: "≡", hue: "muted", word: "renamed" },
  UNREADABLE: { sign: "?", hue: "caution", word: "not readable" },
  SAME: { sign: "=", hue: "muted", word: "the same" },
};

export const keyOf = (part: PartChange) => part.b ?? part.a ?? "";

function value(n: number | undefined, unit: string): string {
  if (n === undefined) return "none";
  const digits = Number.isInteger(n)
    ? n.toLocaleString("en").replaceAll(",", " ")
    : n.toPrecision(5);
  return unit ? `${digits} ${unit}` : digits;
}

function Numbers({ part }: { part: PartChange }) {
  return (
    <Box px="3" pb="2" bg="raised">
      <Table.Root
        size="sm"
        fontSize="12px"
        css={{ "& td, & th": { borderColor: "hairline", py: "2px", bg: "transparent" } }}
      >
        <Table.Header>
          <Table.Row bg="transparent">
            <Table.ColumnHeader color="muted">measure</Table.ColumnHeader>
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
          Vertices moved up to {(part.shift.largest * 1000).toFixed(2)} mm, root mean square{" "}
          {(part.shift.rootMeanSquare * 1000).toFixed(2)} mm.
        </Text>
      )}
    </Box>
  );
}

/** Every part that differs, by weight, then how many are the same. */
export function PartList(props: {
  comparison: ComparisonView;
  chosen: string | undefined;
  onChoose: (part: string | undefined) => void;
  all?: boolean;
}) {
  const { comparison, chosen } = props;
  const shown = comparison.changes.filter((c) => props.all || c.outcome !== "SAME");
  const same = comparison.counts["SAME"] ?? 0;
  return (
    <Box role="list" aria-label="Parts that differ" fontSize="13px">
      {shown.map((part) => {
        const key = keyOf(part);
        const sign = SIGN[part.outcome] ?? { sign: "?", hue: "ink", word: part.outcome };
        const open = chosen === key;
        return (
          <Box
            key={part.outcome + key}
            role="listitem"
            borderBottom="1px solid"
            borderColor="hairline"
          >
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
              onClick={() => props.onChoose(open ? undefined : key)}
            >
              <Text as="span" w="12px" color={sign.hue} fontWeight="700" aria-label={sign.word}>
                {sign.sign}
              </Text>
              <Text as="span" flex="1">
                {part.label}
              </Text>
              <Text as="span" color="muted" textAlign="end">
                {part.words}
              </Text>
            </Flex>
            {open && <Numbers part={part} />}
          </Box>
        );
      })}
      {!props.all && (
        <Text px="3" py="1.5" pl="37px" color="muted">
          {same} the same
        </Text>
      )}
    </Box>
  );
}

import { Box, Table, Text } from "@chakra-ui/react";
import type { ComparisonView, PartChange } from "../api/schema";
import { keyOf } from "./arrange";
import { SIGN, value } from "./PartList";
import { phrase } from "../words/phrase";

function told(part: PartChange, side: "a" | "b"): string {
  if (part[side] === undefined) return "";
  const pair = part.numbers["value"];
  return pair?.[side] === undefined ? "" : value(pair[side], pair.unit);
}

/** Settings and columns line by line, A and B beside each other. */
export function Listing(props: {
  comparison: ComparisonView;
  chosen: string | undefined;
  onChoose: (part: string) => void;
}) {
  const lines = [...props.comparison.changes].sort((x, y) =>
    keyOf(x).localeCompare(keyOf(y), undefined, { numeric: true }),
  );
  return (
    <Box
      h="100%"
      overflow="auto"
      tabIndex={0}
      role="region"
      aria-label={phrase("compare.aAndBLineByLine")}
    >
      <Table.Root
        size="sm"
        stickyHeader
        fontSize="13px"
        css={{ "& td, & th": { borderColor: "hairline", py: "3px" } }}
      >
        <Table.Header>
          <Table.Row bg="ground">
            <Table.ColumnHeader color="muted">{phrase("common.what")}</Table.ColumnHeader>
            <Table.ColumnHeader color="clay" textAlign="end">
              A
            </Table.ColumnHeader>
            <Table.ColumnHeader color="slate" textAlign="end">
              B
            </Table.ColumnHeader>
            <Table.ColumnHeader color="muted">{phrase("compare.difference")}</Table.ColumnHeader>
          </Table.Row>
        </Table.Header>
        <Table.Body>
          {lines.map((part) => {
            const key = keyOf(part);
            const sign = SIGN[part.outcome];
            const differs = part.outcome !== "SAME";
            return (
              <Table.Row
                key={part.outcome + key}
                bg={key === props.chosen ? "raised" : "transparent"}
                aria-selected={key === props.chosen}
                cursor="pointer"
                onClick={() => props.onChoose(key)}
              >
                <Table.Cell fontWeight={differs ? "650" : "400"}>{key}</Table.Cell>
                <Table.Cell fontFamily="mono" textAlign="end" color={differs ? "clay" : "muted"}>
                  {told(part, "a")}
                </Table.Cell>
                <Table.Cell fontFamily="mono" textAlign="end" color={differs ? "slate" : "muted"}>
                  {told(part, "b")}
                </Table.Cell>
                <Table.Cell color="muted">
                  <Text as="span" color={sign.hue} fontWeight="700" aria-hidden>
                    {sign.sign}
                  </Text>{" "}
                  {differs ? part.words : ""}
                </Table.Cell>
              </Table.Row>
            );
          })}
        </Table.Body>
      </Table.Root>
    </Box>
  );
}

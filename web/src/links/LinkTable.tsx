import { Table, Text } from "@chakra-ui/react";
import type { LinkRow } from "../api/schema";
import { count } from "../shared/words";
import { keyOf, statusWords } from "./words";
import { Head } from "../shared/Head";
import { phrase } from "../words/phrase";

const TONE: Record<LinkRow["status"], string> = {
  FOUND: "muted",
  CHANGED: "caution",
  MISSING: "loss",
  OUTSIDE: "caution",
};

/** One line for each file a document names. */
export function LinkTable(props: {
  rows: LinkRow[];
  chosen: Record<string, string>;
  selected: string | undefined;
  zone: string;
  now: number;
  onSelect: (row: LinkRow) => void;
}) {
  return (
    <Table.Root
      size="sm"
      fontSize="13px"
      tableLayout="fixed"
      css={{ "& td, & th": { borderColor: "hairline", py: "5px", verticalAlign: "top" } }}
    >
      <Head
        ground
        columns={[
          [phrase("common.document"), "26%"],
          [phrase("links.names"), "40%"],
          [phrase("links.howItStands"), "20%"],
          [phrase("links.alsoUsedBy"), "14%"],
        ]}
      />
      <Table.Body>
        {props.rows.map((row, index) => {
          const first = index === 0 || props.rows[index - 1]?.document !== row.document;
          const other = props.chosen[keyOf(row)];
          return (
            <Table.Row
              key={keyOf(row)}
              bg={props.selected === keyOf(row) ? "raised" : "transparent"}
              cursor="pointer"
              tabIndex={0}
              aria-selected={props.selected === keyOf(row)}
              onClick={() => props.onSelect(row)}
              onKeyDown={(e) => e.key === "Enter" && props.onSelect(row)}
            >
              <Table.Cell wordBreak="break-word">{first ? row.path : ""}</Table.Cell>
              <Table.Cell fontFamily="mono" fontSize="12px" wordBreak="break-all">
                {row.uri}
                {row.absolute && row.status !== "MISSING" && (
                  <Text fontFamily="body" color="caution">
                    {phrase("links.aWholePathARelativeOne")}
                  </Text>
                )}
                {other !== undefined && (
                  <Text color="fir">{phrase("links.becomes", { other })}</Text>
                )}
              </Table.Cell>
              <Table.Cell
                color={TONE[row.status]}
                fontWeight={row.status === "MISSING" ? "650" : "400"}
              >
                {statusWords(row, props.zone, props.now)}
              </Table.Cell>
              <Table.Cell color="muted" title={row.users.join("\n")}>
                {row.users.length === 0 ? "" : count(row.users.length, "document")}
              </Table.Cell>
            </Table.Row>
          );
        })}
      </Table.Body>
    </Table.Root>
  );
}

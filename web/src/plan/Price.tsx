import { Box, Table, Text } from "@chakra-ui/react";
import type { PriceView } from "../api/schema";
import { usePrice, useSession } from "../api/queries";
import { Failure } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { seconds, size } from "../shared/words";

/** "Of each copy 2.1 MB are pictures and such, 0.4 MB history, 0.5 MB the work itself." */
function insideWords({ inside, largest, size: bytes }: PriceView): string {
  if (!largest) return "There is no document yet.";
  const name = largest.slice(largest.lastIndexOf("/") + 1);
  if (!inside) return `${name}: ${size(bytes)}; what is inside cannot be told for its kind.`;
  const parts = [
    inside.attachments > 0 ? `${size(inside.attachments)} pictures and other attachments` : "",
    inside.history > 0 ? `${size(inside.history)} history` : "",
    `${size(inside.rest)} the work itself`,
  ].filter(Boolean);
  return `Of the ${size(bytes)} of ${name}: ${parts.join(", ")}.`;
}

/** What a copy costs in each place, and what is inside that is paid for each time. */
export function Price({ project, document }: { project: string; document: string | undefined }) {
  const price = usePrice(project, document);
  const zone = useSession().data?.zone ?? "UTC";
  const now = useNow(60_000);
  if (!price.data) return <Failure error={price.error} />;
  return (
    <Box py="3" borderBottom="1px solid" borderColor="hairline">
      <Text fontSize="14px" fontWeight="650">
        What a backup costs, as measured
      </Text>
      <Table.Root size="sm" mt="1" fontSize="13px">
        <Table.Header>
          <Table.Row bg="transparent">
            <Table.ColumnHeader>Folder</Table.ColumnHeader>
            <Table.ColumnHeader textAlign="end">One backup</Table.ColumnHeader>
            <Table.ColumnHeader textAlign="end">Within a day</Table.ColumnHeader>
            <Table.ColumnHeader textAlign="end">Free</Table.ColumnHeader>
            <Table.ColumnHeader>Full</Table.ColumnHeader>
          </Table.Row>
        </Table.Header>
        <Table.Body>
          {price.data.places.map((p) => (
            <Table.Row key={p.path} bg="transparent">
              <Table.Cell fontFamily="mono" fontSize="12px" wordBreak="break-all">
                {p.path}
              </Table.Cell>
              <Table.Cell textAlign="end">
                {p.copying ? `${seconds(p.copying).toFixed(2)} s` : "not measured"}
              </Table.Cell>
              <Table.Cell textAlign="end">{size(p.aDay)}</Table.Cell>
              <Table.Cell textAlign="end">{p.here ? size(p.free) : "away"}</Table.Cell>
              <Table.Cell>
                {p.fullAt ? moment(p.fullAt, zone, now) : "not within a month"}
              </Table.Cell>
            </Table.Row>
          ))}
        </Table.Body>
      </Table.Root>
      <Text fontSize="12px" color="muted" mt="1">
        {insideWords(price.data)} Backups are made in the background: these seconds are load on the
        disk, not time you wait.
      </Text>
    </Box>
  );
}

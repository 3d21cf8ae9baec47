import { Box, Table, Text } from "@chakra-ui/react";
import type { PriceView } from "../api/schema";
import { usePrice, useSession } from "../api/queries";
import { Failure } from "../shared/parts";
import { useNow } from "../shared/useNow";
import { moment } from "../shared/dates";
import { seconds, size, decimal } from "../shared/words";
import { phrase } from "../words/phrase";

/** "Of each copy 2.1 MB are pictures and such, 0.4 MB history, 0.5 MB the work itself." */
function insideWords({ inside, largest, size: bytes }: PriceView): string {
  if (!largest) return phrase("plan.thereIsNoDocumentYet");
  const name = largest.slice(largest.lastIndexOf("/") + 1);
  if (!inside) return phrase("plan.whatIsInsideCannotBeTold", { name, size: size(bytes) });
  const parts = [
    inside.attachments > 0
      ? phrase("plan.picturesAndOtherAttachments", { size: size(inside.attachments) })
      : "",
    inside.history > 0 ? phrase("plan.history", { size: size(inside.history) }) : "",
    phrase("plan.theWorkItself", { size: size(inside.rest) }),
  ].filter(Boolean);
  return phrase("plan.ofTheOf", { size: size(bytes), name, parts: parts.join(", ") });
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
        {phrase("plan.whatABackupCostsAsMeasured")}
      </Text>
      <Table.Root size="sm" mt="1" fontSize="13px">
        <Table.Header>
          <Table.Row bg="transparent">
            <Table.ColumnHeader>{phrase("common.folder")}</Table.ColumnHeader>
            <Table.ColumnHeader textAlign="end">{phrase("plan.oneBackup")}</Table.ColumnHeader>
            <Table.ColumnHeader textAlign="end">{phrase("plan.withinADay")}</Table.ColumnHeader>
            <Table.ColumnHeader textAlign="end">{phrase("plan.free")}</Table.ColumnHeader>
            <Table.ColumnHeader>{phrase("plan.full")}</Table.ColumnHeader>
          </Table.Row>
        </Table.Header>
        <Table.Body>
          {price.data.places.map((p) => (
            <Table.Row key={p.path} bg="transparent">
              <Table.Cell fontFamily="mono" fontSize="12px" wordBreak="break-all">
                {p.path}
              </Table.Cell>
              <Table.Cell textAlign="end">
                {p.copying ? `${decimal(seconds(p.copying), 2)} s` : phrase("plan.notMeasured")}
              </Table.Cell>
              <Table.Cell textAlign="end">{size(p.aDay)}</Table.Cell>
              <Table.Cell textAlign="end">{p.here ? size(p.free) : phrase("plan.away")}</Table.Cell>
              <Table.Cell>
                {p.fullAt ? moment(p.fullAt, zone, now) : phrase("plan.notWithinAMonth")}
              </Table.Cell>
            </Table.Row>
          ))}
        </Table.Body>
      </Table.Root>
      <Text fontSize="12px" color="muted" mt="1">
        {phrase("plan.backupsAreMadeInTheBackground", { inside: insideWords(price.data) })}
      </Text>
    </Box>
  );
}

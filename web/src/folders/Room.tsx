import { Box, Table, Text } from "@chakra-ui/react";
import type { DiskRoom } from "../api/schema";
import { useMay } from "../api/people";
import { useRoom, useSession } from "../api/queries";
import { Head } from "../shared/Head";
import { Failure, Loading } from "../shared/parts";
import { moment } from "../shared/dates";
import { count, size } from "../shared/words";
import { useNow } from "../shared/useNow";
import { RoomLimit } from "./RoomLimit";

type Line = DiskRoom["lines"][number];

const WORDS: Record<Line["kind"], [string, string]> = {
  BACKUPS: ["backups", "“clean up…” above; the newest whole one of each document stays"],
  SECURED: ["what programs left at crashes", "“clean up…” above, once they are not needed"],
  AS_WRITTEN: [
    "what programs wrote aside",
    "goes by the plan: the last few, and the last of each hour",
  ],
  BIN: ["the bin", "goes by itself, oldest first; nothing that is kept goes with it"],
  PUT_ASIDE: ["files put aside by restores", "without them those restores cannot be undone"],
  RETAINED: ["leftovers not copied yet", "go by themselves once they are copied"],
  TEST_COPIES: ["copies laid out to be opened", "laid out again when wanted"],
  PICTURES: ["pictures and models for the screen", "drawn again when wanted"],
  RECORDS: ["the database", "grows with what is remembered"],
};

function Lines({ disk, zone, now }: { disk: DiskRoom; zone: string; now: number }) {
  return (
    <Table.Body>
      {disk.lines.map((line) => {
        const [what, remark] = WORDS[line.kind];
        return (
          <Table.Row key={`${line.kind}${line.project ?? ""}`} bg="transparent">
            <Table.Cell>
              {line.project
                ? `${line.project}: ${what}`
                : `${what.charAt(0).toUpperCase()}${what.slice(1)}`}
              <Text color="muted" fontSize="12px">
                {remark}
              </Text>
            </Table.Cell>
            <Table.Cell whiteSpace="nowrap">{count(line.files, "file")}</Table.Cell>
            <Table.Cell whiteSpace="nowrap">{size(line.bytes)}</Table.Cell>
            <Table.Cell whiteSpace="nowrap">
              {line.frees === 0 ? "nothing" : size(line.frees)}
            </Table.Cell>
            <Table.Cell whiteSpace="nowrap">
              {line.reaches ? `work from ${moment(line.reaches, zone, now)}` : "·"}
              {line.reaches && line.frees > 0 && (
                <Text color="muted" fontSize="12px">
                  {line.thenReaches
                    ? `then from ${moment(line.thenReaches, zone, now)}`
                    : "then none"}
                </Text>
              )}
            </Table.Cell>
          </Table.Row>
        );
      })}
    </Table.Body>
  );
}

/** What takes the room of each disk, what going without it would free, how far the rest reaches. */
export function Room() {
  const room = useRoom();
  const zone = useSession().data?.zone ?? "UTC";
  const may = useMay();
  const now = useNow(60_000);
  if (room.isPending) return <Loading what="Adding up what takes the room" />;
  if (!room.data) return <Failure error={room.error} />;
  return (
    <Box px="4" py="3" borderTop="1px solid" borderColor="hairline">
      <Text as="h2" fontSize="15px" fontWeight="650">
        What takes the room
      </Text>
      {room.data.map((disk) => (
        <Box key={disk.disk} mt="3">
          <Text fontSize="13px">
            <b>{disk.folders[0]}</b>
            {disk.folders.length > 1 &&
              ` and ${count(disk.folders.length - 1, "more folder")}`}:{" "}
            {size(disk.lines.reduce((sum, l) => sum + l.bytes, 0))} by Kavrin, {size(disk.free)} of{" "}
            {size(disk.capacity)} free
            {disk.grownPerHour !== undefined &&
              `, ${size(Math.abs(disk.grownPerHour))} an hour ${disk.grownPerHour > 0 ? "taken" : "freed"} by everybody`}
            .{" "}
            {disk.limit !== undefined &&
              `All backups on it within ${size(disk.limit)}, ${size(disk.held)} taken. `}
            {disk.fullAt && (
              <Text as="span" color="caution">
                ▲ Full {moment(disk.fullAt, zone, now)}, as it fills now.
              </Text>
            )}
          </Text>
          {may("ADMINISTER") && (disk.held > 0 || disk.limit !== undefined) && (
            <RoomLimit disk={disk} />
          )}
          {disk.lines.length > 0 && (
            <Table.ScrollArea
              position="relative"
              tabIndex={0}
              role="region"
              aria-label={`What takes the room on ${disk.folders.join(", ")}`}
            >
              <Table.Root
                minW="760px"
                size="sm"
                fontSize="13px"
                whiteSpace="normal"
                css={{ "& td, & th": { borderColor: "hairline", verticalAlign: "top" } }}
              >
                <Head columns={["What", "Files", "Takes", "Would free", "Reaches back to"]} />
                <Lines disk={disk} zone={zone} now={now} />
              </Table.Root>
            </Table.ScrollArea>
          )}
        </Box>
      ))}
    </Box>
  );
}

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
import { phrase } from "../words/phrase";

type Line = DiskRoom["lines"][number];

const WORDS: Record<Line["kind"], [string, string]> = {
  BACKUPS: [phrase("folders.asBackups"), phrase("folders.cleanUpAboveTheNewestWhole")],
  SECURED: [phrase("folders.whatProgramsLeftAtCrashes"), phrase("folders.cleanUpAboveOnceTheyAre")],
  AS_WRITTEN: [phrase("folders.whatProgramsWroteAside"), phrase("folders.goesByThePlanTheLast")],
  BIN: [phrase("folders.theBin"), phrase("folders.goesByItselfOldestFirstNothing")],
  PUT_ASIDE: [
    phrase("folders.filesPutAsideByRestores"),
    phrase("folders.withoutThemThoseRestoresCannotBe"),
  ],
  RETAINED: [phrase("folders.leftoversNotCopiedYet"), phrase("folders.goByThemselvesOnceTheyAre")],
  TEST_COPIES: [
    phrase("folders.copiesLaidOutToBeOpened"),
    phrase("folders.laidOutAgainWhenWanted"),
  ],
  PICTURES: [
    phrase("folders.picturesAndModelsForTheScreen"),
    phrase("folders.drawnAgainWhenWanted"),
  ],
  RECORDS: [phrase("folders.theDatabase"), phrase("folders.growsWithWhatIsRemembered")],
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
              {line.frees === 0 ? phrase("folders.nothing") : size(line.frees)}
            </Table.Cell>
            <Table.Cell whiteSpace="nowrap">
              {line.reaches
                ? phrase("folders.workFrom", { moment: moment(line.reaches, zone, now) })
                : "·"}
              {line.reaches && line.frees > 0 && (
                <Text color="muted" fontSize="12px">
                  {line.thenReaches
                    ? phrase("folders.thenFrom", { moment: moment(line.thenReaches, zone, now) })
                    : phrase("folders.thenNone")}
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
  if (room.isPending) return <Loading what={phrase("folders.addingUpWhatTakesTheRoom")} />;
  if (!room.data) return <Failure error={room.error} />;
  return (
    <Box px="4" py="3" borderTop="1px solid" borderColor="hairline">
      <Text as="h2" fontSize="15px" fontWeight="650">
        {phrase("folders.whatTakesTheRoom")}
      </Text>
      {room.data.map((disk) => (
        <Box key={disk.disk} mt="3">
          <Text fontSize="13px">
            {phrase("folders.byKavrinOfFree", {
              folders: <b>{disk.folders[0]}</b>,
              others:
                disk.folders.length > 1 &&
                ` ${phrase("folders.and", { moreFolders: count(disk.folders.length - 1, "more folder") })}`,
              taken: size(disk.lines.reduce((sum, l) => sum + l.bytes, 0)),
              free: size(disk.free),
              capacity: size(disk.capacity),
              growth:
                disk.grownPerHour !== undefined &&
                phrase("folders.anHourByEverybody", {
                  size: size(Math.abs(disk.grownPerHour)),
                  direction:
                    disk.grownPerHour > 0 ? phrase("folders.taken") : phrase("folders.freed"),
                }),
              limit:
                disk.limit !== undefined &&
                `${phrase("folders.allBackupsOnItWithinTaken", { limit: size(disk.limit), held: size(disk.held) })} `,
            })}
            {disk.fullAt && (
              <Text as="span" color="caution">
                {phrase("folders.fullAsItFillsNow2", { moment: moment(disk.fullAt, zone, now) })}
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
              aria-label={phrase("folders.whatTakesTheRoomOn", {
                folders: disk.folders.join(", "),
              })}
            >
              <Table.Root
                minW="760px"
                size="sm"
                fontSize="13px"
                whiteSpace="normal"
                css={{ "& td, & th": { borderColor: "hairline", verticalAlign: "top" } }}
              >
                <Head
                  columns={[
                    phrase("common.what"),
                    phrase("folders.files"),
                    phrase("folders.takes"),
                    phrase("folders.wouldFree"),
                    phrase("folders.reachesBackTo2"),
                  ]}
                />
                <Lines disk={disk} zone={zone} now={now} />
              </Table.Root>
            </Table.ScrollArea>
          )}
        </Box>
      ))}
    </Box>
  );
}

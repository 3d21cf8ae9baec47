import { Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { DiskRoom } from "../api/schema";
import { useRoomLimit } from "../api/finding";
import { Number } from "../shared/fields";
import { FormDialog } from "../shared/FormDialog";
import { Failure, Main, Quiet, Side } from "../shared/parts";
import { useSettled } from "../shared/useSettled";
import { count, size } from "../shared/words";
import { phrase } from "../words/phrase";

const GB = 1e9;

/** What all backups on a disk may take together; what goes for it is shown before it holds. */
export function RoomLimit({ disk }: { disk: DiskRoom }) {
  const [open, setOpen] = useState(false);
  const [bytes, setBytes] = useState(disk.limit ?? 0);
  const { preview, apply } = useRoomLimit(disk.disk, useSettled(bytes), open);
  const going = preview.data;
  const close = () => setOpen(false);
  return (
    <>
      <Quiet
        onClick={() => {
          setBytes(disk.limit ?? 0);
          setOpen(true);
        }}
        aria-label={phrase(
          disk.limit === undefined
            ? "folders.limitWhatBackupsTakeOnThe"
            : "folders.changeTheLimitOn",
          { folders: disk.folders[0] },
        )}
      >
        {disk.limit === undefined ? phrase("folders.limit") : phrase("folders.changeTheLimit")}
      </Quiet>
      <FormDialog
        open={open}
        size="md"
        onOpen={setOpen}
        title={phrase("folders.limitWhatBackupsTakeOnThis")}
        onSubmit={() => {
          if (going) apply.mutate(going.digest, { onSuccess: close });
        }}
        footer={
          <>
            <Side type="button" onClick={close}>
              {phrase("common.leaveIt")}
            </Side>
            <Main type="submit" disabled={!going} loading={apply.isPending}>
              {going && going.drops > 0
                ? phrase("folders.holdItToTheBin", { versions: count(going.drops, "version") })
                : bytes === 0
                  ? phrase("folders.noLimit")
                  : phrase("folders.holdIt")}
            </Main>
          </>
        }
      >
        <Flex gap="1.5" align="center" fontSize="14px" wrap="wrap">
          {phrase("folders.backupsOfAllProjectsInAt", {
            number: (
              <Number
                label={phrase("folders.gigabytesForAllBackupsOnThis")}
                value={bytes / GB}
                min={0}
                max={1_000_000}
                step={0.5}
                onChange={(n) => setBytes(Math.round(n * GB))}
              />
            ),
          })}
        </Flex>
        <Text fontSize="13px" mt="3" minH="40px" aria-live="polite">
          {going && `${phrase("folders.theyTakeNow", { size: size(going.taken) })} `}
          {going &&
            bytes > 0 &&
            (going.drops > 0
              ? phrase("folders.ofWouldGoIntoTheBin", {
                  versions: count(going.drops, "version"),
                  size: size(going.dropBytes),
                })
              : phrase("folders.nothingWouldGo"))}
          {going && bytes > 0 && going.stays > bytes && (
            <Text as="span" color="caution">
              {" "}
              {phrase("folders.stayAllTheSamePastThe", { size: size(going.stays) })}
            </Text>
          )}
        </Text>
        <Text fontSize="12px" color="muted">
          {phrase("folders.theNewestIntactVersionOfEach")}
        </Text>
        <Failure error={preview.error ?? apply.error} />
      </FormDialog>
    </>
  );
}

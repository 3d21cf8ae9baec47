import { Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { DiskRoom } from "../api/schema";
import { useRoomLimit } from "../api/finding";
import { Number } from "../shared/fields";
import { FormDialog } from "../shared/FormDialog";
import { Failure, Main, Quiet, Side } from "../shared/parts";
import { useSettled } from "../shared/useSettled";
import { count, size } from "../shared/words";

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
        aria-label={`Limit what backups take on the disk of ${disk.folders[0]}`}
      >
        {disk.limit === undefined ? "limit…" : "change the limit…"}
      </Quiet>
      <FormDialog
        open={open}
        size="md"
        onOpen={setOpen}
        title="Limit what backups take on this disk"
        onSubmit={() => {
          if (going) apply.mutate(going.digest, { onSuccess: close });
        }}
        footer={
          <>
            <Side type="button" onClick={close}>
              Leave it
            </Side>
            <Main type="submit" disabled={!going} loading={apply.isPending}>
              {going && going.drops > 0
                ? `Hold it: ${count(going.drops, "version")} to the bin`
                : bytes === 0
                  ? "No limit"
                  : "Hold it"}
            </Main>
          </>
        }
      >
        <Flex gap="1.5" align="center" fontSize="14px" wrap="wrap">
          backups of all projects in at most
          <Number
            label="Gigabytes for all backups on this disk"
            value={bytes / GB}
            min={0}
            max={1_000_000}
            step={0.5}
            onChange={(n) => setBytes(Math.round(n * GB))}
          />
          GB, the bins included (0: no limit)
        </Flex>
        <Text fontSize="13px" mt="3" minH="40px" aria-live="polite">
          {going && `They take ${size(going.taken)} now. `}
          {going &&
            bytes > 0 &&
            (going.drops > 0
              ? `${count(going.drops, "version")} of ${size(going.dropBytes)} would go into the bin, those first that leave the smallest gap.`
              : "Nothing would go.")}
          {going && bytes > 0 && going.stays > bytes && (
            <Text as="span" color="caution">
              {" "}
              ▲ {size(going.stays)} stay all the same, past the limit.
            </Text>
          )}
        </Text>
        <Text fontSize="12px" color="muted">
          The newest intact version of each document and what is pinned or noted stay in any case.
        </Text>
        <Failure error={preview.error ?? apply.error} />
      </FormDialog>
    </>
  );
}

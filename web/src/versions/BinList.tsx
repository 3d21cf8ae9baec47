import { Box, Popover, Portal, Text } from "@chakra-ui/react";
import type { BinnedCopy } from "../api/schema";
import { useTakeBack } from "../api/queries";
import { Failure, Quiet } from "../shared/parts";
import { count, moment, size } from "../shared/words";

/** What the plan dropped and can still be had back. */
export function BinList(props: { document: string; bin: BinnedCopy[]; zone: string; now: number }) {
  const takeBack = useTakeBack(props.document);
  if (props.bin.length === 0) return null;
  const bytes = props.bin.reduce((sum, c) => sum + c.size, 0);
  return (
    <Popover.Root lazyMount>
      <Popover.Trigger asChild>
        <Quiet ml="auto">
          {count(props.bin.length, "dropped backup").replace("copys", "copies")} in the bin,{" "}
          {size(bytes)}
        </Quiet>
      </Popover.Trigger>
      <Portal>
        <Popover.Positioner>
          <Popover.Content bg="ground" borderColor="hairline" width="560px">
            <Popover.Body fontSize="13px" maxH="320px" overflow="auto">
              <Text color="muted" mb="2">
                Gone for good 14 days after they were dropped.
              </Text>
              <Failure error={takeBack.error} />
              {props.bin.map((c) => (
                <Box
                  key={c.id}
                  borderTop="1px solid"
                  borderColor="hairline"
                  py="1"
                  display="flex"
                  gap="2"
                  alignItems="center"
                >
                  <Text fontFamily="mono" fontSize="12px" flex="1" wordBreak="break-all">
                    {c.name}
                  </Text>
                  <Text color="muted" whiteSpace="nowrap">
                    {size(c.size)}, {moment(c.since, props.zone, props.now)}
                  </Text>
                  <Quiet
                    needs="RESTORE"
                    onClick={() => takeBack.mutate(c.bin)}
                    loading={takeBack.isPending}
                  >
                    restore
                  </Quiet>
                </Box>
              ))}
            </Popover.Body>
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}

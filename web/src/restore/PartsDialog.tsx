import { Box, CloseButton, Dialog, Flex, Portal, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Brought, PartsPreview } from "../api/schema";
import { useComposed, usePartsPreview, usePartsRestore } from "../api/restoring";
import { Seen } from "../compare/Seen";
import { Failure, Loading, Notice } from "../shared/parts";
import { PutVersion, type VersionMode } from "./PutVersion";
import { ReceiptCard } from "./RestorePanel";
import { byState, useTray } from "./tray";
import { phrase } from "../words/phrase";

function Line({ one }: { one: Brought }) {
  return (
    <Box as="li" py="1" borderTop="1px solid" borderColor="hairline">
      <Text fontWeight="650" wordBreak="break-word">
        {one.part}
      </Text>
      <Text color="muted">
        {one.replaced
          ? phrase("restore.takesThePlaceOfTheOne")
          : phrase("restore.isNotInTodaysFileIs")}
        {one.along.length > 0 &&
          ` ${phrase("restore.bringsAlong", { along: one.along.join(", ") })}`}
      </Text>
      {one.told.map((t) => (
        <Text key={t} color="caution">
          {phrase("restore.mind", { told: t })}
        </Text>
      ))}
    </Box>
  );
}

function Proof({ preview }: { preview: PartsPreview }) {
  if (preview.unequal.length > 0) {
    return (
      <Notice tone="loss">
        {phrase("restore.writtenToTheSideAndRead", { unequal: preview.unequal.join("; ") })}
      </Notice>
    );
  }
  return (
    <Text color="fir">
      {phrase("restore.writtenToTheSideAndRead2", {
        equal: phrase("restore.equalWhatTheyWere", { n: preview.brought.length }),
        untouched: preview.untouched,
      })}
    </Text>
  );
}

/** What bringing parts in would make of today's file, and doing it. */
export function PartsDialog({ document, onClose }: { document: string; onClose: () => void }) {
  const tray = useTray(document);
  const [asked] = useState(() => byState(tray.picks));
  const [mode, setMode] = useState<VersionMode>("REPLACE");
  const [chosen, setChosen] = useState<string>();
  const preview = usePartsPreview(document, asked, true);
  const composed = useComposed(document, preview.data?.id);
  const restore = usePartsRestore(document);
  const proven = preview.data !== undefined && preview.data.unequal.length === 0;
  return (
    <Dialog.Root open onOpenChange={(e) => !e.open && onClose()} size="xl">
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content bg="ground" color="ink" maxW="1060px">
            <Dialog.Header pb="2">
              <Dialog.Title>
                {restore.data
                  ? phrase("restore.broughtIntoTodaysFile")
                  : phrase("restore.whatTodaysFileWouldBecome")}
              </Dialog.Title>
            </Dialog.Header>
            <Dialog.CloseTrigger asChild>
              <CloseButton size="sm" />
            </Dialog.CloseTrigger>
            <Dialog.Body pb="5" fontSize="13px">
              {restore.data ? (
                <ReceiptCard view={restore.data} />
              ) : (
                <Flex gap="4" h="500px">
                  <Box flex="1" minW="0" border="1px solid" borderColor="hairline">
                    {composed.data ? (
                      <Seen comparison={composed.data} chosen={chosen} onChoose={setChosen} />
                    ) : (
                      !preview.error && <Loading what={phrase("restore.writingItToTheSide")} />
                    )}
                  </Box>
                  <Flex direction="column" w="360px" gap="3" overflow="auto">
                    <Failure error={preview.error ?? composed.error ?? restore.error} />
                    {preview.data && (
                      <>
                        <Box as="ul" listStyleType="none">
                          {preview.data.brought.map((one) => (
                            <Line key={one.part} one={one} />
                          ))}
                        </Box>
                        <Proof preview={preview.data} />
                      </>
                    )}
                    <PutVersion
                      mode={mode}
                      disabled={!proven}
                      loading={restore.isPending}
                      onMode={setMode}
                      onPut={() =>
                        preview.data &&
                        restore.mutate(
                          { id: preview.data.id, mode },
                          { onSuccess: () => tray.clear() },
                        )
                      }
                    />
                  </Flex>
                </Flex>
              )}
            </Dialog.Body>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}

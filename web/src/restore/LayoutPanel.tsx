import { Box, Flex, Text } from "@chakra-ui/react";
import type { ReceiptView, StateView } from "../api/schema";
import { useLayOut, useLayoutPreview } from "../api/queries";
import { Failure, Loading, Main, Notice, PathText } from "../shared/parts";
import { count, size } from "../shared/words";
import { howLong } from "./RestorePanel";
import { phrase } from "../words/phrase";

function Done({ receipts, folder }: { receipts: ReceiptView[]; folder: string }) {
  return (
    <Box role="status" fontSize="13px" data-testid="laid-out">
      <Text fontWeight="650" fontSize="15px" color="fir" mb="1">
        {phrase("restore.laidOutAndReadBack", { files: count(receipts.length, "file") })}
      </Text>
      <PathText path={folder} />
      <Text mt="1">{phrase("restore.aRunCanGoOnFrom")}</Text>
    </Box>
  );
}

/** Hands back the files of a step that belong together, in a folder of their own. */
export function LayoutPanel({ document, state }: { document: string; state: StateView }) {
  const preview = useLayoutPreview(document, state.id);
  const layOut = useLayOut(document);
  const lacks = state.step?.lacks ?? [];
  if (layOut.data && preview.data)
    return <Done receipts={layOut.data} folder={preview.data.folder} />;
  return (
    <Flex direction="column" gap="3" fontSize="13px">
      {lacks.length > 0 && (
        <Notice tone="caution">
          {phrase("restore.thisStepIsIncompleteARun", { lacks: lacks.join("; ") })}
        </Notice>
      )}
      {preview.isPending && <Loading what={phrase("restore.lookingForACopyOfEach")} />}
      {preview.data && (
        <Box>
          <Text>{phrase("restore.aNewFolderIsMade")}</Text>
          <PathText path={preview.data.folder} />
          {preview.data.files.map((file) => (
            <Text key={file} fontFamily="mono" fontSize="12px" color="muted">
              {file}
            </Text>
          ))}
          <Text color="muted" mt="1">
            {phrase("restore.areFreeNothingThatStandsIs", {
              needed: size(preview.data.bytes),
              howLong: howLong(preview.data.seconds),
              free: size(preview.data.free),
            })}
          </Text>
          {!preview.data.fits && (
            <Notice tone="loss">
              {phrase("restore.notEnoughRoomAreNeededClear", {
                size: size(preview.data.bytes),
                size2: size(preview.data.bytes - preview.data.free),
              })}
            </Notice>
          )}
        </Box>
      )}
      <Failure error={preview.error ?? layOut.error} />
      <Main
        needs="RESTORE"
        alignSelf="flex-start"
        disabled={!preview.data?.fits}
        loading={layOut.isPending}
        onClick={() => {
          if (preview.data) layOut.mutate({ state: state.id, digest: preview.data.digest });
        }}
      >
        {phrase("restore.layTheFilesOutTogether")}
      </Main>
    </Flex>
  );
}

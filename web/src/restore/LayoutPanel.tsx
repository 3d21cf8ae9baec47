import { Box, Flex, Text } from "@chakra-ui/react";
import type { ReceiptView, StateView } from "../api/schema";
import { useLayOut, useLayoutPreview } from "../api/queries";
import { Failure, Loading, Main, Notice, PathText } from "../shared/parts";
import { count, size } from "../shared/words";
import { howLong } from "./RestorePanel";

function Done({ receipts, folder }: { receipts: ReceiptView[]; folder: string }) {
  return (
    <Box role="status" fontSize="13px" data-testid="laid-out">
      <Text fontWeight="650" fontSize="15px" color="fir" mb="1">
        {count(receipts.length, "file")} laid out and read back.
      </Text>
      <PathText path={folder} />
      <Text mt="1">A run can go on from here; the present run was not touched.</Text>
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
          This step is incomplete: {lacks.join("; ")}. A run may not go on from it.
        </Notice>
      )}
      {preview.isPending && <Loading what="Looking for a copy of each file" />}
      {preview.data && (
        <Box>
          <Text>A new folder is made</Text>
          <PathText path={preview.data.folder} />
          {preview.data.files.map((file) => (
            <Text key={file} fontFamily="mono" fontSize="12px" color="muted">
              {file}
            </Text>
          ))}
          <Text color="muted" mt="1">
            {size(preview.data.bytes)}, {howLong(preview.data.seconds)}; {size(preview.data.free)}{" "}
            are free. Nothing that stands is touched. Each file is read back in full.
          </Text>
          {!preview.data.fits && (
            <Notice tone="loss">
              Not enough room: {size(preview.data.bytes)} are needed. Clear{" "}
              {size(preview.data.bytes - preview.data.free)} on that drive.
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
        Lay the files out together
      </Main>
    </Flex>
  );
}

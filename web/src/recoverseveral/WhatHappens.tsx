import { Box, Text } from "@chakra-ui/react";
import type { GroupPreview } from "../api/schema";
import { howLong } from "../restore/RestorePanel";
import { PathText } from "../shared/parts";
import { count, size } from "../shared/words";

/** Bytes, room and time, and on demand every path. */
export function WhatHappens({ preview }: { preview: GroupPreview }) {
  const aside = preview.items.filter((i) => i.aside !== undefined).length;
  return (
    <>
      <Text>
        {count(preview.items.length, "file")}, {size(preview.bytes)}, {howLong(preview.seconds)};{" "}
        {size(preview.free)} are free. {aside > 0 && `${count(aside, "present file")} put aside. `}
        {preview.alike.length > 0 && `${preview.alike.length} are that version already.`}
      </Text>
      {!preview.fits && (
        <Text color="loss">
          Not enough room for all together: clear {size(preview.bytes - preview.free)} on that
          drive, or choose fewer.
        </Text>
      )}
      {preview.open.length > 0 && (
        <Text color="caution">
          ▲ Close {preview.open.map((o) => o.target.replace(/^.*\//, "")).join(", ")} first, or the
          next save goes over what is restored:{" "}
          {preview.open.flatMap((o) => o.open.evidence).join("; ")}.
        </Text>
      )}
      {preview.items.length > 0 && (
        <Box asChild color="muted" fontSize="12px" maxH="140px" overflow="auto">
          <details>
            <summary>which path gets what</summary>
            {preview.items.map((i) => (
              <Box key={i.target} py="1">
                <PathText path={i.target} />
                {i.aside && <Text>what is there goes to {i.aside}</Text>}
              </Box>
            ))}
          </details>
        </Box>
      )}
    </>
  );
}

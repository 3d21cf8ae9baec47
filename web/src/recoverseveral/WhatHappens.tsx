import { Box, Text } from "@chakra-ui/react";
import type { GroupPreview } from "../api/schema";
import { howLong } from "../restore/RestorePanel";
import { PathText } from "../shared/parts";
import { count, size } from "../shared/words";
import { phrase } from "../words/phrase";

/** Bytes, room and time, and on demand every path. */
export function WhatHappens({ preview }: { preview: GroupPreview }) {
  const aside = preview.items.filter((i) => i.aside !== undefined).length;
  return (
    <>
      <Text>
        {phrase("recoverseveral.areFree", {
          files: count(preview.items.length, "file"),
          needed: size(preview.bytes),
          howLong: howLong(preview.seconds),
          free: size(preview.free),
          aside:
            aside > 0 &&
            `${phrase("recoverseveral.putAside", { presentFiles: count(aside, "present file") })} `,
          same:
            preview.alike.length > 0 &&
            phrase("recoverseveral.areThatVersionAlready", { alike: preview.alike.length }),
        })}
      </Text>
      {!preview.fits && (
        <Text color="loss">
          {phrase("recoverseveral.notEnoughRoomForAllTogether", {
            size: size(preview.bytes - preview.free),
          })}
        </Text>
      )}
      {preview.open.length > 0 && (
        <Text color="caution">
          {phrase("recoverseveral.closeFirstOrTheNextSave", {
            open: preview.open.map((o) => o.target.replace(/^.*\//, "")).join(", "),
            evidence: preview.open.flatMap((o) => o.open.evidence).join("; "),
          })}
        </Text>
      )}
      {preview.items.length > 0 && (
        <Box asChild color="muted" fontSize="12px" maxH="140px" overflow="auto">
          <details>
            <summary>{phrase("recoverseveral.whichPathGetsWhat")}</summary>
            {preview.items.map((i) => (
              <Box key={i.target} py="1">
                <PathText path={i.target} />
                {i.aside && (
                  <Text>{phrase("recoverseveral.whatIsThereGoesTo", { aside: i.aside })}</Text>
                )}
              </Box>
            ))}
          </details>
        </Box>
      )}
    </>
  );
}

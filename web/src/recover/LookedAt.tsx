import { Box, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { DeskView } from "../api/schema";
import { Quiet } from "../shared/parts";
import { count } from "../shared/words";
import { phrase } from "../words/phrase";

/** Where was looked, with counts that add up. */
export function LookedAt({ desk, onTrail }: { desk: DeskView; onTrail: () => void }) {
  const [open, setOpen] = useState(false);
  return (
    <Box p="3" fontSize="13px" borderTop="1px solid" borderColor="hairline" color="muted">
      {phrase("recover.foundInLookedAtWhereExactly", {
        versions: count(desk.candidates.length, "version"),
        folders: count(desk.places, "folder"),
        files: count(desk.files, "file"),
        b: (text) => (
          <Quiet onClick={() => setOpen(!open)} aria-expanded={open}>
            {text}
          </Quiet>
        ),
      })}
      {open &&
        desk.lookedAt.map((place) => (
          <Text key={place.folder} fontFamily="mono" fontSize="11px" wordBreak="break-all" mt="1">
            {place.folder}
            {place.reachable ? `: ${place.files}` : phrase("recover.notThere")}
          </Text>
        ))}
      {desk.older > 0 && (
        <Text mt="1">
          {phrase("recover.inVersions", {
            olderVersions: count(desk.older, "older version"),
            b: (text) => <Quiet onClick={onTrail}>{text}</Quiet>,
          })}
        </Text>
      )}
    </Box>
  );
}

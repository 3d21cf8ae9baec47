import { Box, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { DeskView } from "../api/schema";
import { Quiet } from "../shared/parts";
import { count } from "../shared/words";

/** Where was looked, with counts that add up. */
export function LookedAt({ desk, onTrail }: { desk: DeskView; onTrail: () => void }) {
  const [open, setOpen] = useState(false);
  return (
    <Box p="3" fontSize="13px" borderTop="1px solid" borderColor="hairline" color="muted">
      {count(desk.candidates.length, "version")} found in {count(desk.places, "folder")},{" "}
      {count(desk.files, "file")} looked at.{" "}
      <Quiet onClick={() => setOpen(!open)} aria-expanded={open}>
        where exactly
      </Quiet>
      {open &&
        desk.lookedAt.map((place) => (
          <Text key={place.folder} fontFamily="mono" fontSize="11px" wordBreak="break-all" mt="1">
            {place.folder}
            {place.reachable ? `: ${place.files}` : ": not there"}
          </Text>
        ))}
      {desk.older > 0 && (
        <Text mt="1">
          {count(desk.older, "older version")} in <Quiet onClick={onTrail}>Versions</Quiet>
        </Text>
      )}
    </Box>
  );
}

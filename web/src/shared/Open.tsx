import { Box, Popover, Portal, Text } from "@chakra-ui/react";
import type { OpenNow } from "../api/schema";
import { Notice } from "./parts";
import { phrase } from "../words/phrase";

const WORDS: Record<OpenNow["state"], string> = {
  HERE: phrase("shared.openHere"),
  ELSEWHERE: phrase("shared.openElsewhere"),
  CLOSED: phrase("shared.closed"),
  UNKNOWN: phrase("shared.openOrNotUnknown"),
};

/** Whether a document is open, with what says so one press away. */
export function Open({ open, name }: { open: OpenNow; name: string }) {
  return (
    <Popover.Root lazyMount>
      <Popover.Trigger asChild>
        <Box
          as="button"
          textAlign="start"
          textDecoration="underline dotted"
          textUnderlineOffset="3px"
          color={open.state === "UNKNOWN" ? "caution" : "muted"}
          cursor="pointer"
          aria-label={phrase("shared.whatSaysSo", { name, words: WORDS[open.state] })}
        >
          {WORDS[open.state]}
        </Box>
      </Popover.Trigger>
      <Portal>
        <Popover.Positioner>
          <Popover.Content bg="ground" borderColor="hairline" width="360px">
            <Popover.Body fontSize="13px">
              {open.evidence.map((words) => (
                <Text key={words} overflowWrap="anywhere">
                  {sentence(words)}
                </Text>
              ))}
            </Popover.Body>
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}

function sentence(words: string): string {
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
}

/** True if restoring now may be undone by the next save of whoever has it open. */
export const mayBeOverwritten = (open: OpenNow) => open.mayHoldWork || open.state === "ELSEWHERE";

/** What to do before a file is replaced that is open somewhere. */
export function CloseFirst({ open }: { open: OpenNow }) {
  if (!mayBeOverwritten(open)) return null;
  return (
    <Notice tone="caution">
      {phrase("shared.orItsNextSaveGoesOver", {
        advice:
          open.state === "ELSEWHERE"
            ? phrase("shared.theFileIsOpenOnAnother")
            : open.state === "HERE"
              ? phrase("shared.theFileIsOpenHereClose")
              : phrase("shared.theFileMayBeOpenClose"),
        evidence: open.evidence.map(sentence).join(" "),
      })}
    </Notice>
  );
}

import { Box, Popover, Portal, Text } from "@chakra-ui/react";
import type { Why as WhyRecord } from "../api/schema";
import { phrase } from "../words/phrase";

/** A figure's formula with the values put in, one press away. */
export function Why({ why, name }: { why: WhyRecord; name: string }) {
  return (
    <Popover.Root lazyMount>
      <Popover.Trigger asChild>
        <Box
          as="button"
          textDecoration="underline"
          textUnderlineOffset="2px"
          color="muted"
          cursor="pointer"
          aria-label={phrase("shared.why", { name })}
        >
          {phrase("shared.why2")}
        </Box>
      </Popover.Trigger>
      <Portal>
        <Popover.Positioner>
          <Popover.Content bg="ground" borderColor="hairline" width="360px">
            <Popover.Body fontSize="13px">
              <Text fontFamily="mono">{why.formula}</Text>
              <Text fontFamily="mono" mt="1">
                {why.filled}
              </Text>
              <Text color="muted" mt="2">
                {why.source}
              </Text>
            </Popover.Body>
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}

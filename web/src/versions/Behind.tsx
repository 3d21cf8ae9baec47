import { Box, Popover, Portal, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Failure, Quiet } from "../shared/parts";

/** Versions that are not in the list but can be had: behind one button. */
export function Behind(props: {
  label: string;
  note: string;
  error: unknown;
  children: ReactNode;
}) {
  return (
    <Popover.Root lazyMount>
      <Popover.Trigger asChild>
        <Quiet>{props.label}</Quiet>
      </Popover.Trigger>
      <Portal>
        <Popover.Positioner>
          <Popover.Content bg="ground" borderColor="hairline" width="min(560px, 94vw)">
            <Popover.Body fontSize="13px" maxH="320px" overflow="auto">
              <Text color="muted" mb="2">
                {props.note}
              </Text>
              <Failure error={props.error} />
              {props.children}
            </Popover.Body>
          </Popover.Content>
        </Popover.Positioner>
      </Portal>
    </Popover.Root>
  );
}

export function BehindRow(props: { name: string; facts: string; children: ReactNode }) {
  return (
    <Box
      borderTop="1px solid"
      borderColor="hairline"
      py="1"
      display="flex"
      gap="2"
      alignItems="center"
    >
      <Text fontFamily="mono" fontSize="12px" flex="1" wordBreak="break-all">
        {props.name}
      </Text>
      <Text color="muted" whiteSpace="nowrap">
        {props.facts}
      </Text>
      {props.children}
    </Box>
  );
}

import { Flex } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** Words and fields of one setting, side by side while there is room. */
export function Row({ children }: { children: ReactNode }) {
  return (
    <Flex w="100%" align="center" gap="1.5" wrap="wrap">
      {children}
    </Flex>
  );
}

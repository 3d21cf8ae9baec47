import { Box, Flex } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Main, Side } from "./parts";
import { phrase } from "../words/phrase";

/** A sheet as it is printed, with what prints it and the way back, which are not. */
export function Printed(props: { back: string; onBack: () => void; children: ReactNode }) {
  return (
    <Box px="8" py="5" maxW="900px" className="paper">
      <Flex gap="2" mb="4" css={{ "@media print": { display: "none" } }}>
        <Main onClick={() => window.print()}>{phrase("shared.print")}</Main>
        <Side onClick={props.onBack}>{props.back}</Side>
      </Flex>
      {props.children}
    </Box>
  );
}

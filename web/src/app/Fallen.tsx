import { Box, Text } from "@chakra-ui/react";
import { Component, type ReactNode } from "react";
import { Main } from "../shared/parts";
import { phrase } from "../words/phrase";

/** What stands in place of a view that could not be drawn; the others go on. */
export class Fallen extends Component<{ children: ReactNode }, { why?: string }> {
  override state: { why?: string } = {};

  static getDerivedStateFromError(error: unknown) {
    return { why: error instanceof Error ? error.message : String(error) };
  }

  override render() {
    if (this.state.why === undefined) return this.props.children;
    return (
      <Box p="8" maxW="640px" role="alert">
        <Text as="h1" fontSize="18px" fontWeight="650" mb="2">
          {phrase("app.thisViewCouldNotBeDrawn")}
        </Text>
        <Text fontSize="13px" mb="3">
          {phrase("app.yourFilesAndBackupsAreNot", { why: this.state.why })}
        </Text>
        <Main onClick={() => window.location.reload()}>{phrase("app.openItAnew")}</Main>
      </Box>
    );
  }
}

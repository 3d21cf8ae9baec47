import { Box, Text } from "@chakra-ui/react";
import { Component, type ReactNode } from "react";
import { Main } from "../shared/parts";

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
          This view could not be drawn
        </Text>
        <Text fontSize="13px" mb="3">
          Your files and backups are not touched by that, and Kavrin goes on behind it. What the
          page said: {this.state.why}
        </Text>
        <Main onClick={() => window.location.reload()}>Open it anew</Main>
      </Box>
    );
  }
}

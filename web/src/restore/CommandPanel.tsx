import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { StateView } from "../api/schema";
import { useCommand } from "../api/restoring";
import { Failure, Side } from "../shared/parts";
import { count } from "../shared/words";

const LAST = "kavrin.command";

/** A person's own command, run on a copy in a scratch folder; how it ends is kept with the state. */
export function CommandPanel({ document, state }: { document: string; state: StateView }) {
  const [command, setCommand] = useState(() => localStorage.getItem(LAST + document) ?? "");
  const run = useCommand(document);
  const ran = run.data;
  return (
    <Box mt="4" pt="3" borderTop="1px solid" borderColor="hairline" fontSize="13px">
      <Text as="h3" fontWeight="650">
        Try it with a command of your own
      </Text>
      <Text color="muted" mb="1.5">
        {state.step ? "Go on for one step, say. " : ""}It runs in a scratch folder with a copy of
        this version, which then goes. <Box as="code">$KAVRIN_FILE</Box> names the file there
        {state.step && (
          <>
            , <Box as="code">$KAVRIN_STEP</Box> the step
          </>
        )}
        .
      </Text>
      <Flex
        as="form"
        gap="1.5"
        onSubmit={(e) => {
          e.preventDefault();
          localStorage.setItem(LAST + document, command);
          run.mutate({ state: state.id, command });
        }}
      >
        <Input
          size="xs"
          fontFamily="mono"
          aria-label="Command"
          placeholder={
            state.step
              ? "my-solver $KAVRIN_FILE --from $KAVRIN_STEP --steps 1"
              : "my-program --check $KAVRIN_FILE"
          }
          value={command}
          onChange={(e) => setCommand(e.target.value)}
        />
        <Side
          needs="ADMINISTER"
          over="everything"
          size="xs"
          type="submit"
          disabled={command.trim() === ""}
          loading={run.isPending}
        >
          Run
        </Side>
      </Flex>
      <Failure error={run.error} />
      {ran && (
        <Box role="status" mt="2" data-testid="ran">
          <Text color={ran.exit === 0 ? "fir" : "loss"} fontWeight="650">
            {ran.exit === 0 ? "It went through" : "It failed"}: {ran.words}. Kept with this version.
          </Text>
          {ran.made.length > 0 && (
            <Text color="muted">
              It made {count(ran.made.length, "file")}: {ran.made.slice(0, 6).join(", ")}
            </Text>
          )}
          {ran.output !== "" && (
            <Box
              as="pre"
              fontSize="12px"
              maxH="120px"
              overflow="auto"
              whiteSpace="pre-wrap"
              borderLeft="2px solid"
              borderColor="hairline"
              ps="2"
              tabIndex={0}
              aria-label="What it wrote"
            >
              {ran.output}
            </Box>
          )}
        </Box>
      )}
    </Box>
  );
}

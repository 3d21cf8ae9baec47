import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { StateView } from "../api/schema";
import { useCommand } from "../api/restoring";
import { Failure, Side } from "../shared/parts";
import { count } from "../shared/words";
import { phrase } from "../words/phrase";

const LAST = "kavrin.command";

/** A person's own command, run on a copy in a scratch folder; how it ends is kept with the state. */
export function CommandPanel({ document, state }: { document: string; state: StateView }) {
  const [command, setCommand] = useState(() => localStorage.getItem(LAST + document) ?? "");
  const run = useCommand(document);
  const ran = run.data;
  return (
    <Box mt="4" pt="3" borderTop="1px solid" borderColor="hairline" fontSize="13px">
      <Text as="h3" fontWeight="650">
        {phrase("restore.tryItWithACommandOf")}
      </Text>
      <Text color="muted" mb="1.5">
        {phrase("restore.itRunsInAScratchFolder", {
          goOn: state.step ? `${phrase("restore.goOnForOneStepSay")} ` : "",
          b: (text) => <Box as="code">{text}</Box>,
        })}
        {state.step && (
          <>{phrase("restore.kavrinStepTheStep", { b: (text) => <Box as="code">{text}</Box> })}</>
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
          aria-label={phrase("restore.command")}
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
          {phrase("restore.run")}
        </Side>
      </Flex>
      <Failure error={run.error} />
      {ran && (
        <Box role="status" mt="2" data-testid="ran">
          <Text color={ran.exit === 0 ? "fir" : "loss"} fontWeight="650">
            {phrase("restore.keptWithThisVersion", {
              outcome:
                ran.exit === 0 ? phrase("restore.itWentThrough") : phrase("restore.itFailed"),
              words: ran.words,
            })}
          </Text>
          {ran.made.length > 0 && (
            <Text color="muted">
              {phrase("restore.itMade", {
                files: count(ran.made.length, "file"),
                made: ran.made.slice(0, 6).join(", "),
              })}
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
              aria-label={phrase("restore.whatItWrote")}
            >
              {ran.output}
            </Box>
          )}
        </Box>
      )}
    </Box>
  );
}
